/** What the cards of tests have in common: attendance, the scale, and that they are final. */
export const exampleCard = {
  toFollow: [] as readonly string[],
  attendance: {
    possible: 106,
    present: 102,
    late: 5,
    withReason: 3,
    elsewhere: 0,
    notExpected: 0,
    withoutReason: 1,
    unmarked: 0,
    percentPresent: '96.2',
  },
  scale: [
    { grade: 'A', fromPercent: '90' },
    { grade: 'E', fromPercent: '0' },
  ],
  final: true,
  issue: 1,
  printedOn: '2026-11-23',
}
