/** The letters of the choices, A first. */
export const choiceLetters = 'ABCDEFGHIJ'

export interface TypedLetters {
  /** One entry a question: a letter, or undefined where none was given (typed as `.`, `-` or left out at the end). */
  readonly letters: readonly (string | undefined)[]
  /** Problems in words, naming the question; empty when the letters are right and complete. */
  readonly problems: readonly string[]
  /** Those of them that more letters cannot mend. */
  readonly impossible: readonly string[]
  /** Whether there is exactly one place for each question. */
  readonly complete: boolean
}

/**
 * Reads an answer key or a student's answers typed as letters in order, such as `CBDAACDBBA`. Spaces are ignored;
 * `.` or `-` is a question left out.
 * @param choices number of choices of each question, in order
 */
export function readLetters(typed: string, choices: readonly number[]): TypedLetters {
  const text = typed.replace(/\s+/g, '').toUpperCase()
  const problems: string[] = []
  const letters = choices.map((count, i) => {
    const letter = text[i]
    if (letter === undefined || letter === '.' || letter === '-') return undefined
    const last = choiceLetters[count - 1]
    if (choiceLetters.slice(0, count).includes(letter)) return letter
    problems.push(`Question ${i + 1}: ${letter} is not a choice. Type A to ${last}.`)
    return undefined
  })
  if (text.length > choices.length)
    problems.push(
      `${text.length} letters typed for ${choices.length} questions: ${text.length - choices.length} too many.`,
    )
  const impossible = [...problems]
  if (text.length < choices.length)
    problems.push(
      `${text.length} of ${choices.length} letters typed: ${choices.length - text.length} remaining. Type . for a question left out.`,
    )
  return { letters, problems, impossible, complete: text.length === choices.length && problems.length === 0 }
}

/** Writes letters in order, `.` where there is none. */
export function writeLetters(letters: readonly (string | undefined | null)[]): string {
  return letters.map((letter) => letter ?? '.').join('')
}
