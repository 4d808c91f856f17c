/** Initial and worn-out passwords, compared without case, digits at the end, or common swaps of letters. */
const common = new Set(
  `password passwort passwords letmein welcome qwertyuiop qwerty asdfghjkl iloveyou sunshine princess football baseball
  dragon monkey shadow master superman trustno administrator changeme secret school teacher kedge abcdefghijkl
  correcthorsebatterystaple whatever internet computer starwars basketball liverpool chelsea arsenal pokemon charlie`.split(
    /\s+/,
  ),
)

export const passwordMinimum = 12
export const passwordMaximum = 128

const swaps: Readonly<Record<string, string>> = {
  '0': 'o',
  '1': 'l',
  '3': 'e',
  '4': 'a',
  '5': 's',
  '7': 't',
  '@': 'a',
  $: 's',
  '!': 'i',
}
const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[0134579@$!]/g, (c) => swaps[c] ?? c)
    .replace(/[^a-z]/g, '')

export interface PasswordCheck {
  readonly text: string
  readonly met: boolean
}

/**
 * The rule for passwords, part by part, for showing while typing. Length counts more than odd characters:
 * no kinds of character are demanded.
 * @param own what the password must not contain: user name, name, school
 */
export function checkPassword(password: string, own: readonly string[]): readonly PasswordCheck[] {
  const bare = plain(password)
  const trailing = plain(password.replace(/[\d\W_]+$/, ''))
  const distinct = new Set(password).size
  const isCommon = common.has(bare) || common.has(trailing) || (distinct < 5 && password.length > 0)
  const run = /^(?:0123456789|1234567890|abcdefghijklmnopqrstuvwxyz)+/i.exec(password)?.[0] ?? ''
  const carriesOwn = own.map(plain).some((word) => word.length >= 4 && bare.includes(word))
  return [
    {
      text: `At least ${passwordMinimum} characters. A few unrelated words are easy to remember and hard to guess.`,
      met: password.length >= passwordMinimum && password.length <= passwordMaximum,
    },
    {
      text: 'Must not be a common password, a sequence such as 123456789 or one character repeated.',
      met: password.length > 0 && !isCommon && run.length < password.length / 2,
    },
    {
      text: 'Must not contain your name, user name or the school’s name.',
      met: password.length > 0 && !carriesOwn,
    },
  ]
}

/** The parts of the rule that a password does not meet yet. */
export function unmetRules(password: string, own: readonly string[]): readonly string[] {
  return checkPassword(password, own)
    .filter((check) => !check.met)
    .map((check) => check.text)
}

/** Whether a password meets every part of the rule. */
export function passwordAccepted(password: string, own: readonly string[]): boolean {
  return unmetRules(password, own).length === 0
}
