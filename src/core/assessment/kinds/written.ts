import { limits } from '@/core/limits'
import type { Kind } from './kind'

/** An answer that a marker reads. A response is its text; empty where it stands on paper. */
export const written: Kind<'written', Record<string, never>, string> = {
  name: 'written',
  words: 'Written answer',
  example: '?',
  grows: true,
  byHand: true,
  schemas: (z) => ({ content: z.strictObject({}), response: z.string().max(limits.writtenResponse) }),
  start: () => ({}),
  unkeyed: (content) => content,
  isKeyed: () => true,
  score: () => undefined,
  misfit: () => undefined,
  token: /\?|\d+(?:[.,]\d+)?|[a-z]/iy,
  // In a line of answers a written one stands for its points; what it says is not typed.
  read: (text) => (text === '?' ? { value: '' } : { problem: `${text} is neither points nor ?` }),
  show: () => '?',
  showKey: () => '',
  tally: (_content, responses) =>
    responses.length === 0
      ? []
      : [{ label: 'answered', share: undefined, students: responses.map((r) => r.studentId) }],
}
