import { dictionary } from '@zxcvbn-ts/language-common'
import { unmetRules } from '@/core/people/password-rule'

let listed: ReadonlySet<string> | undefined

/** Whether a text is among the fifty thousand most common passwords; read when it is first asked. */
function isListed(text: string): boolean {
  listed ??= new Set(dictionary.passwords as readonly string[])
  return listed.has(text)
}

/**
 * The parts of the rule for passwords that one does not meet, with the list of common passwords that the page lacks.
 * @param own what it must not contain: user name, name, school
 */
export const unmetPasswordRules = (password: string, own: readonly string[]): readonly string[] =>
  unmetRules(password, own, isListed)
