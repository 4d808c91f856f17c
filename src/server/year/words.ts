import { shortDate } from '@/core/calendar/date-words'
import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('year', {
  overlaps: ({ year }: { year: string }) =>
    `These days are part of ${year}, which already exists. Someone may have created this year before you.`,
  yearGone: () => 'This academic year no longer exists. Reload the page.',
  dayOutsideYear: (a: { year: string; firstDay: string; lastDay: string }) =>
    `This day is outside ${a.year}, which runs from ${shortDate(a.firstDay, true)} to ${shortDate(a.lastDay, true)}.`,
  subjectExists: ({ name }: { name: string }) =>
    `${name} already exists. Nothing was added; remove it from the list.`,
  partGone: () =>
    'Something this class refers to has been removed in the meantime. Close this and open it again.',
  classExists: ({ name }: { name: string }) => `There is already a class ${name} in this year.`,
  termHasMarks: ({ term }: { term: string }) =>
    `The class already has marks in the ${term} term, so this term cannot be removed.`,
  yearGroupExists: ({ name }: { name: string }) =>
    `${name} already exists. Nothing was added; remove it from the list.`,
  homeroomExists: ({ name }: { name: string }) =>
    `The homeroom ${name} would exist twice. Nothing was added; change the list.`,
})
