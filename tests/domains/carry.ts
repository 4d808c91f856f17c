import { admin, type Entries } from './entry'

export const entries: Entries = {
  plan: { who: admin, input: (o) => ({ termId: o.termId }) },
  forward: {
    who: admin,
    input: (o) => ({
      fromTermId: o.termId,
      toTermId: o.roundId,
      classIds: [o.classId],
      withStudents: true,
    }),
    draw: (random, world) => {
      const at = random.below(Math.max(1, world.terms.length - 1))
      return { fromTermId: world.terms[at], toTermId: world.terms[at + 1] ?? world.terms[at] }
    },
  },
}
