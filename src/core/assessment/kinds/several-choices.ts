import { choiceRange, choicesSchema, firstChoices } from './choices'
import { everything, nothing, type Kind } from './kind'

interface Content {
  readonly choices: readonly string[]
  /** All right ones; empty without a key. */
  readonly right: readonly string[]
  /** All points for exactly the right ones; or a part for each right one, less as much for each wrong one, never below none. */
  readonly rule: 'all or nothing' | 'each right less each wrong'
}

const inOrder = (choices: readonly string[], some: readonly string[]) =>
  choices.filter((c) => some.includes(c))

/** Several of 2 to 10 choices can be right. A response is those that were chosen, at least one. */
export const severalChoices: Kind<'several choices', Content, readonly string[]> = {
  name: 'several choices',
  words: 'Several choices',
  example: 'A+C',
  grows: true,
  byHand: false,
  schemas: (z) => ({
    content: z
      .object({
        choices: choicesSchema(z),
        right: z.array(z.string()),
        rule: z.enum(['all or nothing', 'each right less each wrong']),
      })
      .refine((c) => c.right.every((one) => c.choices.includes(one)), {
        message:
          'The key names something that is not one of the question’s choices. Add choices or enter other letters.',
      }),
    response: z.array(z.string().regex(/^[A-J]$/)).min(1),
  }),
  start: (choices) => ({ choices: firstChoices(choices), right: [], rule: 'all or nothing' }),
  unkeyed: (content) => ({ ...content, right: [] }),
  isKeyed: ({ right }) => right.length > 0,
  score: ({ right, rule }, response) => {
    if (right.length === 0) return undefined
    const hits = response.filter((c) => right.includes(c)).length
    const wrong = response.length - hits
    if (rule === 'all or nothing') return hits === right.length && wrong === 0 ? everything : nothing
    return { num: Math.max(0, hits - wrong), den: right.length }
  },
  misfit: ({ choices }, response) => {
    const foreign = response.find((c) => !choices.includes(c))
    return foreign === undefined ? undefined : `${foreign} is not one of its choices`
  },
  token: /[a-z](?:\s*\+\s*[a-z])*/iy,
  read: (text, { choices }) => {
    const letters = text
      .toUpperCase()
      .split('+')
      .map((part) => part.trim())
    const foreign = letters.find((letter) => !choices.includes(letter))
    return foreign === undefined
      ? { value: inOrder(choices, letters) }
      : { problem: `${foreign} is not a choice. Type ${choiceRange(choices)}, with + between several` }
  },
  cell: (text) => [...text.replace(/[^A-Za-z]/g, '')].join('+') || text,
  readKey: (text, content) => {
    const read = severalChoices.read(text, content)
    return 'problem' in read ? read : { value: { ...content, right: read.value } }
  },
  show: (response) => response.join('+'),
  showKey: ({ right }) => right.join('+'),
  // Whoever chose several counts with each of them.
  tally: ({ choices, right }, responses) =>
    choices.map((choice) => ({
      label: choice,
      share: right.length === 0 ? undefined : right.includes(choice) ? everything : nothing,
      students: responses.filter((r) => r.value.includes(choice)).map((r) => r.studentId),
    })),
}
