import { hundredths } from '@/core/marks/rational'
import { kindOf, type Keyed } from './kinds'

/** What is typed for one question: a response, and the points of one that a marker gives points for. */
export interface TypedAnswer {
  readonly value: unknown
  /** A decimal as text; null where the key gives them, or nobody has yet. */
  readonly points: string | null
}

export interface TypedLine<T> {
  /** One entry a question; undefined where none was given: typed as `.` or `-`, or not typed yet. */
  readonly entries: readonly (T | undefined)[]
  /** Problems in words, naming the question; empty when the line is right and complete. */
  readonly problems: readonly string[]
  /** Those of them that typing on cannot mend. */
  readonly impossible: readonly string[]
  /** How many questions have no entry yet, at the end of the line. */
  readonly remaining: number
  /** Whether there is exactly one entry for each question. */
  readonly complete: boolean
}

type Asked = Keyed & { readonly points: string }
type Outcome<T> = { readonly value: T } | { readonly problem: string }

/** Kinds whose answers are single letters can be typed without spaces, and are counted as letters. */
const inLetters = (questions: readonly Asked[]) =>
  questions.every((q) => q.kind === 'one choice' || q.kind === 'true or false')

const isLeftOut = (text: string, at: number, kind: string) =>
  text[at] === '.' || (text[at] === '-' && !(kind === 'number' && /\d/.test(text[at + 1] ?? '')))

/** Reads one entry for each question in order; spaces between them are for the eye. */
function readLine<T>(
  typed: string,
  questions: readonly Asked[],
  read: (question: Asked, token: string) => Outcome<T>,
): TypedLine<T> {
  const text = typed.trim()
  const problems: string[] = []
  const entries: (T | undefined)[] = []
  let at = 0
  let given = 0
  for (const [i, question] of questions.entries()) {
    while (/\s/.test(text[at] ?? '')) at++
    if (at >= text.length) {
      entries.push(undefined)
      continue
    }
    given++
    if (isLeftOut(text, at, question.kind)) {
      at++
      entries.push(undefined)
      continue
    }
    const { token } = kindOf(question.kind)
    token.lastIndex = at
    const found = token.exec(text)?.[0] ?? text[at] ?? ''
    at += found.length
    const outcome = read(question, found)
    if ('problem' in outcome) {
      problems.push(`Question ${i + 1}: ${outcome.problem}.`)
      entries.push(undefined)
    } else entries.push(outcome.value)
  }
  const words = inLetters(questions) ? 'letters' : 'answers'
  const over = text.slice(at).replace(/\s/g, '').length
  if (over > 0)
    problems.push(`${given + over} ${words} typed for ${questions.length} questions: ${over} too many.`)
  const impossible = [...problems]
  const remaining = questions.length - given
  if (remaining > 0)
    problems.push(
      `${given} of ${questions.length} ${words} typed: ${remaining} remaining. Type . for a question left out.`,
    )
  return { entries, problems, impossible, remaining, complete: problems.length === 0 }
}

function readPoints(token: string, most: string): Outcome<TypedAnswer> {
  const points = token.replace(',', '.')
  if (!/^\d{1,6}(\.\d{1,2})?$/.test(points)) return { problem: `${token} is neither points nor ?` }
  if (hundredths(points) > hundredths(most)) return { problem: `${token} is more than its ${most} points` }
  return { value: { value: '', points } }
}

/**
 * Reads one student's answers, typed in the order of the questions: `CBDA`, `B A+C T 3.5 "ice" 2`. A written answer
 * stands for its points, or is `?` while it is not marked; `.` or `-` is a question left out.
 */
export function readAnswers(typed: string, questions: readonly Asked[]): TypedLine<TypedAnswer> {
  return readLine(typed, questions, (question, token) => {
    const kind = kindOf(question.kind)
    if (kind.byHand && /^\d/.test(token)) return readPoints(token, question.points)
    const read = kind.read(token, question.content)
    return 'problem' in read ? read : { value: { value: read.value, points: null } }
  })
}

/** The questions whose key can be typed in a line. */
export const keyedInLine = <Q extends Keyed>(questions: readonly Q[]): readonly Q[] =>
  questions.filter((q) => kindOf(q.kind).readKey !== undefined)

/**
 * Reads a key as it is read aloud, for the questions of `keyedInLine`: `BADC`, `B A+C T 3.5 "ice/frozen"`.
 * @returns for each of them its content with the key
 */
export function readKeys(typed: string, questions: readonly Asked[]): TypedLine<Keyed['content']> {
  return readLine(typed, questions, (question, token) => {
    const read = kindOf(question.kind).readKey?.(token, question.content)
    return (read ?? { problem: 'it has no key' }) as Outcome<Keyed['content']>
  })
}

/** Single letters stand close, as they are read aloud; all else is parted by spaces. */
function join(tokens: readonly string[]): string {
  const single = (token: string | undefined) => token !== undefined && /^[A-Z.]$/.test(token)
  return tokens.reduce(
    (line, token, i) => line + (i > 0 && !(single(token) && single(tokens[i - 1])) ? ' ' : '') + token,
    '',
  )
}

/** Writes answers as they are typed, `.` where there is none. */
export const writeAnswers = (
  questions: readonly Keyed[],
  answers: readonly (TypedAnswer | undefined)[],
): string =>
  join(
    questions.map((question, i) => {
      const answer = answers[i]
      if (!answer) return '.'
      const kind = kindOf(question.kind)
      return kind.byHand && answer.points !== null ? answer.points : kind.show(answer.value)
    }),
  )

/** Writes a key as it is typed, `.` where a question has none. */
export const writeKeys = (questions: readonly Keyed[]): string =>
  join(keyedInLine(questions).map(({ kind, content }) => kindOf(kind).showKey(content) || '.'))
