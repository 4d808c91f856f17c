import type { Kind } from './kind'
import { number } from './number'
import { oneChoice } from './one-choice'
import { severalChoices } from './several-choices'
import { shortText } from './short-text'
import { trueOrFalse } from './true-or-false'
import { written } from './written'

export type { Group } from './kind'

/** Every kind of question, in the order in which they are offered. A new one is added here and nowhere else. */
export const kinds = [oneChoice, severalChoices, trueOrFalse, number, shortText, written] as const

type OneKind = (typeof kinds)[number]
export type KindName = OneKind['name']
export type ContentOf<N extends KindName> =
  Extract<OneKind, { readonly name: N }> extends Kind<N, infer Content, infer _Response> ? Content : never

/** A question's kind with what belongs to it. */
export type Keyed = {
  readonly [N in KindName]: { readonly kind: N; readonly content: ContentOf<N> }
}[KindName]

/** A kind whose contents and responses are not looked into. */
export type AnyKind = Kind<KindName, unknown, unknown>

const byName = new Map<string, AnyKind>(kinds.map((kind) => [kind.name, kind as unknown as AnyKind]))

/** @throws RangeError for a kind that does not exist */
export function kindOf(name: string): AnyKind {
  const kind = byName.get(name)
  if (!kind) throw new RangeError(`There is no kind of question called ${name}`)
  return kind
}

/** A new question of a kind, without a key. */
export const newQuestion = (name: KindName, choices: number): Keyed =>
  ({ kind: name, content: kindOf(name).start(choices) }) as Keyed
