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

/** What lies in a row on a keyboard, along it and down it, and what is counted or spelled. */
const rows = [
  'qwertyuiop',
  'asdfghjkl',
  'zxcvbnm',
  'qwertzuiop',
  'azertyuiop',
  '1qaz2wsx3edc4rfv5tgb6yhn7ujm',
]
const follows = new Set(
  [...rows, '01234567890', 'abcdefghijklmnopqrstuvwxyz'].flatMap((row) =>
    [...row].slice(1).flatMap((c, i) => [`${row[i]}${c}`, `${c}${row[i]}`]),
  ),
)
/** Characters that stand as far apart as the two of a pattern typed in turns, such as 1q2w3e. */
const distances = [1, 2]
/** Lengths of a piece that is repeated. */
const periods = [2, 3, 4, 5, 6, 7, 8]

/**
 * How many characters of a text do not simply follow from those before them: not the same again, not the next on the
 * keyboard, in the alphabet or in counting, and no piece of three or more that stood there before.
 */
export function unforeseen(text: string): number {
  const lower = text.toLowerCase()
  const at = (i: number) => lower[i] ?? ''
  const isNext = (i: number) =>
    distances.some((d) => i >= d && (at(i) === at(i - d) || follows.has(`${at(i - d)}${at(i)}`)))
  const repeats = (i: number) =>
    periods.some((p) => i >= p + 2 && [0, 1, 2].every((back) => at(i - back) === at(i - back - p)))
  return [...lower].filter((_, i) => !isNext(i) && !repeats(i)).length
}

/** Fewer than these are soon tried out, however long the password is. */
const leastUnforeseen = 6

/** Words that are in the name of many schools and of themselves tell nothing. */
const generic = new Set(['school', 'academy', 'college', 'primary', 'secondary', 'high'])

/** What of a person's or a school's name must not stand in a password: the whole, and its longer words. */
const ownWords = (own: readonly string[]): readonly string[] =>
  own.flatMap((text) => [
    plain(text),
    ...text
      .split(/[^\p{L}\p{N}]+/u)
      .flatMap((word) => (generic.has(word.toLowerCase()) || word.length < 5 ? [] : [plain(word)])),
  ])

/**
 * The rule for passwords, part by part, for showing while typing. Length counts more than odd characters:
 * no kinds of character are demanded.
 * @param own what the password must not contain: user name, name, school
 * @param isListed whether a text is in the list of common passwords, which only the server has
 */
export function checkPassword(
  password: string,
  own: readonly string[],
  isListed: (text: string) => boolean = () => false,
): readonly PasswordCheck[] {
  const bare = plain(password)
  const stem = password.toLowerCase().replace(/^[\d\W_]+|[\d\W_]+$/gu, '')
  const trailing = plain(password.replace(/[\d\W_]+$/, ''))
  const known = [password.toLowerCase(), stem, bare, trailing]
  const isCommon = known.some((text) => text.length >= 4 && (common.has(text) || isListed(text)))
  const carriesOwn = ownWords(own).some((word) => word.length >= 4 && bare.includes(word))
  return [
    {
      text: `At least ${passwordMinimum} characters. A few unrelated words are easy to remember and hard to guess.`,
      met: password.length >= passwordMinimum && password.length <= passwordMaximum,
    },
    {
      text: 'Must not be a common password, a sequence such as 123456789 or one character repeated.',
      met: password.length > 0 && !isCommon && unforeseen(password) >= leastUnforeseen,
    },
    {
      text: 'Must not contain your name, user name or the school’s name.',
      met: password.length > 0 && !carriesOwn,
    },
  ]
}

/** The parts of the rule that a password does not meet yet. */
export function unmetRules(
  password: string,
  own: readonly string[],
  isListed?: (text: string) => boolean,
): readonly string[] {
  return checkPassword(password, own, isListed)
    .filter((check) => !check.met)
    .map((check) => check.text)
}

/** Whether a password meets every part of the rule. */
export function passwordAccepted(password: string, own: readonly string[]): boolean {
  return unmetRules(password, own).length === 0
}
