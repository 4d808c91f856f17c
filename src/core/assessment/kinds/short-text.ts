import { limits } from '@/core/limits'
import { everything, groupAlike, nothing, quoted, unquoted, type Kind } from './kind'

interface Content {
  /** Everything that is accepted; empty without a key. */
  readonly accepted: readonly string[]
  /** What makes a difference. */
  readonly matters: { readonly case: boolean; readonly accents: boolean; readonly spaces: boolean }
}

/** A text without what makes no difference. */
export function plainAnswer(text: string, matters: Content['matters']): string {
  let plain = text
    .normalize('NFC')
    .replace(/[\u2018\u2019]/g, "'")
    .trim()
  if (!matters.spaces) plain = plain.replace(/\s+/g, '')
  if (!matters.case) plain = plain.toLowerCase()
  if (!matters.accents) plain = plain.normalize('NFD').replace(/\p{M}/gu, '')
  return plain
}

/** A word or a few, compared with what is accepted. */
export const shortText: Kind<'short text', Content, string> = {
  name: 'short text',
  words: 'Short text',
  example: '"ice"',
  grows: true,
  byHand: false,
  schemas: (z) => ({
    content: z.object({
      accepted: z
        .array(
          z
            .string()
            .trim()
            .min(1)
            .max(
              limits.shortResponse,
              `Shorten each accepted answer to at most ${limits.shortResponse} characters.`,
            ),
        )
        .max(limits.accepted, `Enter at most ${limits.accepted} accepted answers.`),
      matters: z.object({ case: z.boolean(), accents: z.boolean(), spaces: z.boolean() }),
    }),
    response: z
      .string()
      .trim()
      .min(1)
      .max(limits.shortResponse, `A short answer has at most ${limits.shortResponse} characters.`),
  }),
  start: () => ({ accepted: [], matters: { case: false, accents: false, spaces: false } }),
  unkeyed: (content) => ({ ...content, accepted: [] }),
  isKeyed: ({ accepted }) => accepted.length > 0,
  score: ({ accepted, matters }, response) => {
    if (accepted.length === 0) return undefined
    const answer = plainAnswer(response, matters)
    return accepted.some((one) => plainAnswer(one, matters) === answer) ? everything : nothing
  },
  misfit: () => undefined,
  token: /["“”][^"“”]*["“”]?|[^\s."“”-][^\s"“”]*/y,
  read: (text) => {
    const value = unquoted(text)
    return value === '' ? { problem: 'there is nothing between the quotation marks' } : { value }
  },
  cell: quoted,
  readKey: (text, content) => {
    const accepted = unquoted(text)
      .split('/')
      .map((one) => one.trim())
      .filter(Boolean)
    return accepted.length > 0
      ? { value: { ...content, accepted } }
      : { problem: 'there is nothing between the quotation marks' }
  },
  show: quoted,
  showKey: ({ accepted }) => (accepted.length > 0 ? quoted(accepted.join('/')) : ''),
  tally: (content, responses) =>
    groupAlike(
      responses,
      (value) => plainAnswer(value, content.matters),
      (value) => value,
      (value) => shortText.score(content, value),
    ),
}
