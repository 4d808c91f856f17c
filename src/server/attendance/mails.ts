import { shortDate } from '@/core/calendar/date-words'
import { sessionWords } from '@/core/attendance/sessions'
import { defineMail } from '@/server/platform/mail'

/** Reminds a teacher of a register that is not complete. */
export const registerReminder = defineMail<{
  readonly teacher: string
  readonly of: string
  readonly date: string
  readonly session: string
  readonly state: string
  readonly sender: string
  readonly school: string
  readonly url: string
}>({
  subject: ({ school, of, session }) => `${school}: ${of}, ${sessionWords(session)} register`,
  body: ({ teacher, of, date, session, state, sender, school, url }) =>
    [
      `Dear ${teacher},`,
      `The ${sessionWords(session)} register of ${of} on ${shortDate(date, true)} is not complete: ${state}.`,
      `Take it here: ${url}`,
      `${sender}\n${school}`,
    ].join('\n\n'),
  example: {
    teacher: 'Remi Achterberg',
    of: '7 Tern',
    date: '2026-11-23',
    session: 'morning',
    state: '28 on roll, not started',
    sender: 'Ewan Leask',
    school: 'Wrackline School',
    url: 'https://kedge.wrackline.example/attendance/registers',
  },
})

/** A letter about a student's attendance, as it was written from a template. */
export const attendanceLetter = defineMail<{
  readonly subject: string
  readonly body: string
  /** What it was written from, and with which share present; for the record of letters. */
  readonly template: string
  readonly percent: string
  readonly sender: string
  readonly school: string
}>({
  subject: ({ school, subject }) => `${school}: ${subject}`,
  body: ({ body }) => body,
  example: {
    subject: 'Attendance of Ilse Okonjo-Marsh',
    body: 'Dear Hana Marsh,\n\nIlse Okonjo-Marsh was present in 88.0% of the sessions since Tue 1 Sep 2026.',
    template: 'Below 90%',
    percent: '88.0%',
    sender: 'Ewan Leask',
    school: 'Wrackline School',
  },
})
