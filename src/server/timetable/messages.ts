import { shortDate } from '@/core/calendar/date-words'
import { refusals } from '@/server/platform/failure'
import { goneWords } from '@/server/school/leaving-staff'

const day = (date: string) => shortDate(date, true)

export const { refuse, refuseField } = refusals('timetable', {
  timetableOverlaps: ({
    name,
    firstDay,
    lastDay,
  }: {
    name: string
    firstDay: string
    lastDay: string | null
  }) =>
    `${name} is in use from ${day(firstDay)}${lastDay ? ` to ${day(lastDay)}` : ''}. Choose days that no other timetable covers, or edit that timetable first.`,
  staffGone: goneWords,
  noYear: () => 'A timetable goes by the working week of an academic year. Create the year first.',
  daysInUse: ({ n }: { n: number }) =>
    n === 1
      ? '1 lesson lies on a day or in a period that would go. Move it first.'
      : `${n} lessons lie on days or in periods that would go. Move them first.`,
  takenWith: ({ n }: { n: number }) =>
    `${n === 1 ? '1 register was' : `${n} registers were`} taken with this timetable, so it stays. Give it a last day instead.`,
  registersLost: ({ n }: { n: number }) =>
    `${n === 1 ? '1 mark was' : `${n} marks were`} entered in lessons that would no longer be there. A timetable is changed from a day on: make a new one that begins later, or choose other days.`,
  marksAreKept: ({ marks }: { marks: number }) =>
    `The register of this lesson was taken: ${marks === 1 ? '1 mark' : `${marks} marks`}. They are kept from before and count nowhere. Save it anyway to cancel the lesson.`,
  clash: ({ words }: { words: string }) => `${words} Save it anyway if both are right.`,
  lessonThere: ({ name }: { name: string }) => `${name} already has a lesson then.`,
  slotTaken: () =>
    'Someone changed this lesson while you were editing. The timetable shows what is there now.',
  noLesson: ({ date }: { date: string }) => `This class has no such lesson on ${day(date)}. Reload the page.`,
  outsideTimetable: () =>
    'This timetable has no such day or period. Someone may have changed it. Reload the page.',
  partGone: () => 'A class or room was removed meanwhile. Reload the page and choose again.',
  rowTwice: ({ name }: { name: string }) => `${name} is listed twice in one period.`,
})
