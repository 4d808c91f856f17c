import { everything, nothing, type Kind } from './kind'

interface Content {
  readonly right: boolean | null
}

const letter = (value: boolean) => (value ? 'T' : 'F')

/** A statement that is true or false. */
export const trueOrFalse: Kind<'true or false', Content, boolean> = {
  name: 'true or false',
  words: 'True or false',
  example: 'T',
  grows: false,
  byHand: false,
  schemas: (z) => ({ content: z.object({ right: z.boolean().nullable() }), response: z.boolean() }),
  start: () => ({ right: null }),
  unkeyed: () => ({ right: null }),
  isKeyed: ({ right }) => right !== null,
  score: ({ right }, response) => (right === null ? undefined : response === right ? everything : nothing),
  misfit: () => undefined,
  token: /t(?:rue)?|f(?:alse)?|[a-z]/iy,
  read: (text) => {
    const first = text[0]?.toUpperCase()
    return first === 'T' || first === 'F'
      ? { value: first === 'T' }
      : { problem: `${text.toUpperCase()} is neither true nor false. Type T or F` }
  },
  cell: (text) => text[0] ?? text,
  readKey: (text, content) => {
    const read = trueOrFalse.read(text, content)
    return 'problem' in read ? read : { value: { right: read.value } }
  },
  show: letter,
  showKey: ({ right }) => (right === null ? '' : letter(right)),
  tally: (content, responses) =>
    [true, false].map((value) => ({
      label: value ? 'true' : 'false',
      share: trueOrFalse.score(content, value),
      students: responses.filter((r) => r.value === value).map((r) => r.studentId),
    })),
}
