import { shortDate } from '@/core/calendar/date-words'
import { refusals } from '@/server/platform/failure'

const day = (date: string) => shortDate(date, true)

export const { refuse, refuseField } = refusals('attendance', {
  noSession: ({ date }: { date: string }) =>
    `There is no session on ${day(date)}. Choose a school day on the year line.`,
  noLesson: ({ date, period }: { date: string; period: string }) =>
    `This class has no lesson in period ${period} on ${day(date)}.`,
  lessonCancelled: ({ date, period }: { date: string; period: string }) =>
    `The lesson in period ${period} on ${day(date)} is cancelled.`,
  lessonToCome: ({ starts }: { starts: string }) =>
    `The lesson starts at ${starts}. Its register opens ten minutes before.`,
  future: ({ date }: { date: string }) =>
    `${day(date)} is in the future. You can take a register from that day.`,
  plannedAlready: ({ firstDay, lastDay, code }: { firstDay: string; lastDay: string; code: string }) =>
    `${code} is already planned for this student from ${day(firstDay)} to ${day(lastDay)}. Edit that absence, or choose other days.`,
  notTheirGuardian: () => 'This person is not a guardian of the student. Reload the page.',
  notPlanned: () => 'This absence is no longer planned. The register shows what is known now.',
  onlyAbsences: () => 'Choose a code for an absence, for being educated elsewhere or for not expected.',
  merged: ({ name }: { name: string }) =>
    `The record of ${name} was merged into another one. Choose that one.`,
  onlyToday: () => 'A teacher ends planned absences of today only. For other days ask the office.',
  plannedCodeMissing: ({ code, date }: { code: string; date: string }) =>
    `${code} is not in use on ${day(date)}. Plan the days of each set of codes separately, or choose another code.`,
  plansWithoutCode: ({
    plans,
  }: {
    plans: readonly { student: string; code: string; firstDay: string; lastDay: string }[]
  }) =>
    `These planned absences would have no code for an absence: ${plans.map((p) => `${p.student} (${p.code}, ${day(p.firstDay)} to ${day(p.lastDay)})`).join(', ')}. Keep the code, or edit these absences first.`,
  notBegun: ({ date }: { date: string }) =>
    `The afternoon of ${day(date)} has not started. Choose the morning, or correct it later.`,
  registerComplete: ({ of }: { of: string }) =>
    `The register of ${of} is complete. Nobody has to be reminded.`,
  remindedAlready: ({ by, minutes }: { by: string; minutes: number }) =>
    `${by} has reminded them less than ${minutes} minutes ago.`,
  nobodyToRemind: ({ of }: { of: string }) =>
    `${of} has no teacher who could be reminded. An administrator chooses one under School, Year groups or Classes.`,
  templateExists: ({ name }: { name: string }) => `${name} is already the name of a template.`,
  templateChanged: () =>
    'Someone changed this template while you had it open. Nothing was sent. Look at the letter again.',
  notBelow: ({ students }: { students: readonly string[] }) =>
    `${students.slice(0, 5).join(', ')}${students.length > 5 ? ` and ${students.length - 5} more` : ''} ${students.length === 1 ? 'is' : 'are'} not below the school's attendance threshold. Confirm that you want to write about them too.`,
  nobodyToWrite: () =>
    'There is nobody to write to: no guardian of these students has an e-mail address and may receive letters, or all were written to lately.',
  reportPast: () => 'These days are over. Please call the office about them.',
  reportedAlready: () => 'You have already reported this absence.',
  reportAnswered: () => 'The office has answered this report meanwhile. Please call if it is not right.',
  pastYear: ({ year, lastDay }: { year: string; lastDay: string }) =>
    `${year} ends on ${day(lastDay)}. Correct the days of each academic year separately.`,
  noSchoolDays: ({ firstDay, lastDay }: { firstDay: string; lastDay: string }) =>
    firstDay === lastDay
      ? `There is no session on ${day(firstDay)}. Choose a school day.`
      : `There is no school day between ${day(firstDay)} and ${day(lastDay)}. Choose other days.`,
  codeMissingOn: ({ code, date }: { code: string; date: string }) =>
    `${code} is not in use on ${day(date)}. Correct the days of each set of codes separately.`,
  setOverlaps: ({ name, firstDay, lastDay }: { name: string; firstDay: string; lastDay: string | null }) =>
    `${name} is in use from ${day(firstDay)}${lastDay ? ` to ${day(lastDay)}` : ''}. Choose days that no other set covers, or edit that set first.`,
  marksWithoutCode: ({
    codes,
  }: {
    codes: readonly { code: string; marks: number; from: string; to: string }[]
  }) =>
    `These marks would be left without a code: ${codes.map((c) => `${c.code} (${c.marks}, ${day(c.from)} to ${day(c.to)})`).join(', ')}. Add the codes to the set that covers these days, or choose other days.`,
  codeInUse: ({ code, marks, planned }: { code: string; marks: number; planned: number }) =>
    `${code} cannot be removed: ${[
      marks > 0 && (marks === 1 ? '1 mark' : `${marks} marks`),
      planned > 0 && (planned === 1 ? '1 planned absence' : `${planned} planned absences`),
    ]
      .filter(Boolean)
      .join(' and ')} use it. Start a new set without it instead.`,
  codeOfAnotherSet: () => 'One of these codes belongs to another set. Open this page again.',
  lastCodeSet: () => 'This is the only set of codes, so it stays. Edit its codes instead.',
  codeNotInUse: ({ date }: { date: string }) =>
    `This code is not in use on ${day(date)}. Choose one from the list of codes.`,
  explainedAlready: ({ code, by }: { code: string; by: string }) =>
    `${by} has entered ${code} for this absence. To save the call and keep ${code}, choose "not known yet".`,
  minutesWithoutLate: () => 'Minutes late can only be entered with a late mark.',
  notOnRoll: ({ date }: { date: string }) =>
    `This student is not on the roll of this homeroom on ${day(date)}.`,
})
