import { shortDate } from '@/core/calendar/date-words'
import { refusals } from '@/server/platform/failure'
import { goneWords } from '@/server/school/leaving-staff'

export const { refuse, refuseField } = refusals('year', {
  overlaps: ({ year }: { year: string }) =>
    `These days are part of ${year}, which already exists. Someone may have created this year before you.`,
  yearGone: () => 'This academic year no longer exists. Reload the page.',
  dayOutsideYear: (a: { year: string; firstDay: string; lastDay: string }) =>
    `This day is outside ${a.year}, which runs from ${shortDate(a.firstDay, true)} to ${shortDate(a.lastDay, true)}.`,
  nameExists: ({ name }: { name: string }) =>
    `${name} already exists. Nothing was added; remove it from the list.`,
  roomGone: () => 'This room has been removed in the meantime. Choose another one.',
  closingOutsideYear: ({ year }: { year: string }) => `This day is outside the academic year ${year}.`,
  homeroomHasStudents: (a: { name: string; students: number; lastDay: string }) =>
    `${a.students === 1 ? '1 student belongs' : `${a.students} students belong`} to ${a.name} after ${shortDate(a.lastDay)}. Move them to another homeroom first.`,
  staffGone: goneWords,
  partGone: () =>
    'Something this class refers to has been removed in the meantime. Close this and open it again.',
  classExists: ({ name }: { name: string }) => `There is already a class ${name} in this year.`,
  homeroomExists: ({ name }: { name: string }) =>
    `The homeroom ${name} would exist twice. Nothing was added; change the list.`,
  termExists: ({ name }: { name: string }) => `This year already has a term ${name}.`,
  termHasClasses: ({ name, classes }: { name: string; classes: number }) =>
    `${classes === 1 ? '1 class runs' : `${classes} classes run`} in ${name}. Take the term off ${classes === 1 ? 'it' : 'them'} first.`,
  lastTerm: () => 'This is the only term of the year. Change its days instead.',
  weekHasRegisters: () =>
    'Registers have been taken in this year, so its school days can no longer change. Add days without school instead.',
  partExists: ({ name }: { name: string }) => `${name} already exists. Choose another name.`,
  scaleBegins: () =>
    'A new scale holds from the beginning. Add it first, then edit it and say from which day it changes.',
  partInUse: ({ kind, name }: { kind: string; name: string }) =>
    `${name} is in use or has a history, so this ${kind} stays. ${kind === 'homeroom' ? 'You can close it after a day.' : 'You can give it another name.'}`,
  orderGone: () =>
    'Something was added or removed in the meantime. Nothing was moved; look at the list again.',
})
