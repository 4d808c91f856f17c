import { defineMail } from '@/server/platform/mail'

/** Tells a guardian that a child's report card can be read. */
export const cardReady = defineMail({
  subject: (a: CardReady) => `${a.school}: report card of ${a.student}, ${a.term} term`,
  body: (a: CardReady) =>
    [
      `Dear ${a.guardian},`,
      a.issue > 1
        ? `An updated report card for ${a.student}, ${a.term} term of ${a.year}, is available. It replaces the earlier one.`
        : `The report card for ${a.student}, ${a.term} term of ${a.year}, is available.`,
      `You can read it in Kedge: ${a.url}`,
      ...(a.toFollow.length > 0 ? [`Still to follow: ${a.toFollow.join(', ')}.`] : []),
      a.school,
    ].join('\n\n'),
  example: {
    school: 'Wrackline School',
    guardian: 'Hana Marsh',
    student: 'Ilse Okonjo-Marsh',
    term: 'Autumn',
    year: '2026/27',
    issue: 1,
    toFollow: ['Science'],
    url: 'https://kedge.wrackline.example/report-cards',
  },
})

interface CardReady {
  readonly school: string
  readonly guardian: string
  readonly student: string
  readonly term: string
  readonly year: string
  readonly issue: number
  readonly toFollow: readonly string[]
  readonly url: string
}
