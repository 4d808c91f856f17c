import type { z } from 'zod'

/** What schemas are made with; handed in, so that what only scores does not carry it along. */
export type Zod = typeof z

/** A part of a question's points, from none to all, as an exact fraction. */
export interface Share {
  readonly num: number
  readonly den: number
}
export const nothing: Share = { num: 0, den: 1 }
export const everything: Share = { num: 1, den: 1 }

/** What was typed for one question: what it says, or what is wrong with it, as the end of a sentence. */
export type Read<T> = { readonly value: T } | { readonly problem: string }

/** Students who answered alike. */
export interface Group {
  readonly label: string
  /** What the answer earns; undefined where a marker decides, or while there is no key. */
  readonly share: Share | undefined
  readonly students: readonly string[]
}

export interface Answered<Response> {
  readonly studentId: string
  readonly value: Response
}

/**
 * One kind of question. `Content` is what it has beside its points: its choices, what is right, what is accepted.
 * Responses and contents are plain JSON.
 */
export interface Kind<Name extends string, Content, Response> {
  readonly name: Name
  readonly words: string
  /** One letter or word that stands for what is typed: `A`, `A+C`, `T`. */
  readonly example: string
  /** Whether what is typed may still grow when it could be an answer already: `3` may become `3.5`. */
  readonly grows: boolean
  /** Whether a marker gives the points, and not the key. */
  readonly byHand: boolean
  schemas(zod: Zod): { readonly content: z.ZodType<Content>; readonly response: z.ZodType<Response> }
  /** The content of a new question without a key. */
  start(choices: number): Content
  /** Whether there is a key to score with. */
  isKeyed(content: Content): boolean
  /** The content without its key. */
  unkeyed(content: Content): Content
  /** What a response earns; undefined where a marker decides, or without a key. */
  score(content: Content, response: Response): Share | undefined
  /** Why a response cannot be one to this question, as the end of a sentence; undefined where it can. */
  misfit(content: Content, response: Response): string | undefined
  /** Where in a line of typed answers this one ends: matched at its beginning, ignoring case. */
  readonly token: RegExp
  read(text: string, content: Content): Read<Response>
  /** A cell of a table as it is typed in a line, where the two differ. */
  cell?(text: string): string
  /** Reads the key of a question; undefined where a line of keys leaves such questions out. */
  readKey?(text: string, content: Content): Read<Content>
  /** A response as it is typed. */
  show(response: Response): string
  /** A key as it is typed; empty without one. */
  showKey(content: Content): string
  /** Who answered what: answers that are known beforehand in their order, others the most frequent first. */
  tally(content: Content, responses: readonly Answered<Response>[]): readonly Group[]
}

/** What stands between quotation marks; what has none is as it is. */
export const unquoted = (text: string): string => text.replace(/^["“”]|["“”]$/g, '').trim()

/** A text as it is typed in a line; marks within it would end it. */
export const quoted = (text: string): string => `"${text.replace(/["“”]/g, "'")}"`

/** Groups responses that are alike, the most frequent first. */
export function groupAlike<Response>(
  responses: readonly Answered<Response>[],
  sameAs: (value: Response) => string,
  label: (value: Response) => string,
  score: (value: Response) => Share | undefined,
): readonly Group[] {
  const groups = new Map<string, { value: Response; students: string[] }>()
  for (const { studentId, value } of responses) {
    const key = sameAs(value)
    const group = groups.get(key)
    if (group) group.students.push(studentId)
    else groups.set(key, { value, students: [studentId] })
  }
  return [...groups.values()]
    .sort((a, b) => b.students.length - a.students.length)
    .map(({ value, students }) => ({ label: label(value), share: score(value), students }))
}
