import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('reports', {
  noneChecked: () => 'No class entries have been checked and are waiting for release. Check some first.',
  notInRound: () => 'This student is not in the round.',
  nothingToPrint: () => 'There are no students in this group, so there is nothing to print.',
  cannotPrint: ({ cards }: { cards: readonly { student: string; where: string; characters: string }[] }) =>
    `Some characters cannot be printed and would be missing: ${cards
      .map((c) => `${c.characters} in ${c.student}, ${c.where}`)
      .join('; ')}. Change them, or release without them.`,
  state: ({ state }: { state: string }) =>
    `These entries are now ${state}, so this is no longer possible. The page shows their status.`,
  blanks: ({ students }: { students: readonly { name: string; blanks: readonly string[] }[] }) =>
    `Still blank: ${students.map((s) => `${s.name} (${s.blanks.join(', ')})`).join('; ')}.`,
  notInThisRound: () => 'One of these classes is not in this round. Reload the page.',
  feedChecked: ({ className, state }: { className: string; state: string }) =>
    `The entries of ${className} are ${state}, so what fills them stays as it is. Send them back first.`,
  lineGone: () => 'This line is no longer in the report. Reload the page.',
  columnGone: () => 'This column is no longer in the gradebook. Choose another one.',
  kindDiffers: ({ line, column }: { line: string; column: string }) =>
    `${column} does not hold what ${line} needs. Choose another column.`,
  notWritable: ({ state }: { state: string }) =>
    `These entries have been ${state} and can no longer be changed. ${state === 'handed in' ? 'Take them back first.' : 'Ask the head to send them back.'}`,
  notInClass: () => 'This student is not in the class.',
  tooLong: ({ length, most }: { length: number; most: number }) =>
    `The comment has ${length} characters; the card has room for ${most}. Shorten it by ${length - most}.`,
  noEffort: ({ efforts }: { efforts: readonly string[] }) => `Effort is one of ${efforts.join(', ')}.`,
})
