import { shortDate } from '@/core/calendar/date-words'
import { refusals } from '@/server/platform/failure'

const day = (date: string) => shortDate(date, true)

export const { refuse, refuseField } = refusals('attendance', {
  noSession: ({ date }: { date: string }) =>
    `There is no session on ${day(date)}. Choose a school day on the year line.`,
  future: ({ date }: { date: string }) =>
    `${day(date)} is in the future. You can take a register from that day.`,
  codeNotInUse: ({ date }: { date: string }) =>
    `This code is not in use on ${day(date)}. Choose one from the list of codes.`,
  minutesWithoutLate: () => 'Minutes late can only be entered with a late mark.',
  notOnRoll: ({ date }: { date: string }) =>
    `This student is not on the roll of this homeroom on ${day(date)}.`,
})
