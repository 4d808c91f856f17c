import type { Meaning } from './codes'

/** What each meaning is called where a code set is edited, in the order in which they are offered. */
export const meaningWords: Readonly<Record<Meaning, string>> = {
  present: 'Present',
  late: 'Present, late',
  elsewhere: 'Educated elsewhere',
  'absent with reason': 'Absent, with reason',
  'absent without reason': 'Absent, no reason yet',
  'not expected': 'Not expected',
}

interface CodeDraft {
  readonly code: string
  readonly label: string
  readonly meaning: Meaning
  readonly needsMinutes: boolean
}

interface Problem {
  /** The index of the code and its field; empty for the set as a whole. */
  readonly path: readonly [] | readonly [number, 'code' | 'label' | 'needsMinutes']
  readonly message: string
}

const shape = /^[A-Z][A-Z0-9]{0,3}$/

/** How a code looks at a glance: digits and letters that are easily mistaken for each other become one. */
const atAGlance = (code: string) =>
  code
    .replaceAll('O', '0')
    .replaceAll('I', '1')
    .replaceAll('L', '1')
    .replaceAll('S', '5')
    .replaceAll('B', '8')

/**
 * What is wrong with a set of attendance codes as it is being entered. Codes may begin with other codes (A, A1), since
 * typing waits; two that are the same, or that differ only in letters and digits easily mistaken for each other, may not.
 */
export function checkCodeSet(codes: readonly CodeDraft[]): readonly Problem[] {
  const problems: Problem[] = []
  codes.forEach(({ code: typed, label, meaning, needsMinutes }, i) => {
    const code = typed.trim().toUpperCase()
    if (!shape.test(code))
      problems.push({
        path: [i, 'code'],
        message:
          code === ''
            ? 'Enter a code, such as A1.'
            : 'A code has 1 to 4 letters and digits and begins with a letter.',
      })
    else {
      const before = codes.slice(0, i).map((c) => c.code.trim().toUpperCase())
      const like = before.find((other) => shape.test(other) && atAGlance(other) === atAGlance(code))
      if (like === code) problems.push({ path: [i, 'code'], message: `${code} is in the set twice.` })
      else if (like)
        problems.push({
          path: [i, 'code'],
          message: `${code} is easily mistaken for ${like}. Choose another code.`,
        })
    }
    if (label.trim() === '') problems.push({ path: [i, 'label'], message: 'Enter what the code means.' })
    if (needsMinutes && meaning !== 'late')
      problems.push({ path: [i, 'needsMinutes'], message: 'Only a code for late can require minutes.' })
  })
  if (!codes.some((c) => c.meaning === 'present'))
    problems.push({ path: [], message: 'The set needs a code for present.' })
  if (!codes.some((c) => c.meaning === 'absent without reason'))
    problems.push({ path: [], message: 'The set needs a code for absent, no reason yet.' })
  return problems
}
