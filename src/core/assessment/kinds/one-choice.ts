import { choiceRange, choicesSchema, firstChoices } from './choices'
import { everything, nothing, type Kind } from './kind'

interface Content {
  readonly choices: readonly string[]
  readonly right: string | null
}

/** One of 2 to 10 choices is right. A response is its letter. */
export const oneChoice: Kind<'one choice', Content, string> = {
  name: 'one choice',
  words: 'One choice',
  example: 'B',
  grows: false,
  byHand: false,
  schemas: (z) => ({
    content: z
      .object({ choices: choicesSchema(z), right: z.string().nullable() })
      .refine((c) => c.right === null || c.choices.includes(c.right), {
        message: 'The key is not one of the question’s choices. Add choices or enter another letter.',
      }),
    response: z.string().regex(/^[A-J]$/),
  }),
  start: (choices) => ({ choices: firstChoices(choices), right: null }),
  unkeyed: (content) => ({ ...content, right: null }),
  isKeyed: ({ right }) => right !== null,
  score: ({ right }, response) => (right === null ? undefined : response === right ? everything : nothing),
  misfit: ({ choices }, response) =>
    choices.includes(response) ? undefined : `${response} is not one of its choices`,
  token: /[a-z]/iy,
  read: (text, { choices }) => {
    const letter = text.toUpperCase()
    return choices.includes(letter)
      ? { value: letter }
      : { problem: `${letter} is not a choice. Type ${choiceRange(choices)}` }
  },
  readKey: (text, content) => {
    const read = oneChoice.read(text, content)
    return 'problem' in read ? read : { value: { ...content, right: read.value } }
  },
  show: (response) => response,
  showKey: ({ right }) => right ?? '',
  tally: (content, responses) =>
    content.choices.map((choice) => ({
      label: choice,
      share: oneChoice.score(content, choice),
      students: responses.filter((r) => r.value === choice).map((r) => r.studentId),
    })),
}
