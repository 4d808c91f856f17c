import { shortDate } from '@/core/calendar/date-words'
import { refusals } from '@/server/platform/failure'

const day = (date: string) => shortDate(date, true)
const list = (names: readonly string[]) => names.join(' and ')

export const { refuse, refuseField } = refusals('people', {
  bornInFuture: ({ date }: { date: string }) =>
    `The birth date ${day(date)} is in the future. Check the year.`,
  age: ({ born, age }: { born: string; age: number }) =>
    `Born in ${born}, the student would be ${age} when starting. Check the year.`,
  noYear: () => 'There is no academic year yet. An administrator can create one under School.',
  outsideYear: (a: { year: string; firstDay: string; lastDay: string }) =>
    `The first day of enrolment is outside ${a.year}, which runs from ${day(a.firstDay)} to ${day(a.lastDay)}.`,
  dayOutsideYear: (a: { year: string; firstDay: string; lastDay: string }) =>
    `This day is outside ${a.year}, which runs from ${day(a.firstDay)} to ${day(a.lastDay)}.`,
  notOnRoll: ({ students, date }: { students: readonly string[]; date: string }) =>
    `${students.slice(0, 5).join(' and ')}${students.length > 5 ? ` and ${students.length - 5} more` : ''} ${students.length === 1 ? 'is' : 'are'} not on roll on ${day(date)}. Choose another day, or a year group to enrol again.`,
  noTermLeft: () => 'No term of this academic year is left after that date. Choose an earlier date.',
  homeroomOfOtherYear: () =>
    'This homeroom does not exist in the academic year of that date. Choose one from the list.',
  nobodyReached: () => 'None of these guardians has an e-mail address. Nothing was sent.',
  merged: ({ name }: { name: string }) =>
    `The record of ${name} was merged into another one. Reload the page and use that one.`,
  homeroomClosed: ({ homeroom, lastDay }: { homeroom: string; lastDay: string }) =>
    `${homeroom} is closed after ${day(lastDay)}. Choose another homeroom.`,
  homeroomOfOtherGroup: ({ homeroom }: { homeroom: string }) =>
    `${homeroom} belongs to another year group. Choose a homeroom of the year group above.`,
  classOfOtherSchool: () => 'One of the classes is not in this school. Remove it and save again.',
  classesNotInTerm: ({ classes, term }: { classes: readonly string[]; term: string }) =>
    classes.length === 1
      ? `${list(classes)} is not taught in the ${term} term. Remove it, or start in a term in which it is.`
      : `${list(classes)} are not taught in the ${term} term. Remove them, or start in a term in which they are.`,
  applicantGone: () => 'This applicant is no longer on record. Enrol the student as a new one.',
  alreadyEnrolled: ({ student, number }: { student: string; number: number }) =>
    `${student} is already enrolled, with number ${number}. Nothing was changed.`,
  duplicate: ({ students }: { students: readonly string[] }) =>
    `${students.join(', ')} has the same name and birth date. Open that record first; if this is a different student, confirm that and save again.`,
  guardianOfOther: () => 'This guardian is not on the student’s record. Reload the page.',
  noAddress: ({ guardian }: { guardian: string }) =>
    `${guardian} has no e-mail address on record, so no invitation can be sent.`,
  hasAccount: ({ guardian }: { guardian: string }) => `${guardian} already has an account.`,
  noAccess: ({ guardian }: { guardian: string }) => `${guardian} has no access to Kedge.`,
  alreadyGuardian: ({ guardian }: { guardian: string }) =>
    `${guardian} is already a guardian of this student.`,
  addressOfOther: ({ guardian }: { guardian: string }) =>
    `This address belongs to ${guardian}. Use that name for the same person, or another address.`,
  groupExists: ({ name }: { name: string }) => `There is already a group ${name}.`,
  groupHasHistory: ({ name }: { name: string }) =>
    `${name} has or had students, so it stays. Take the students out of it, or give it another name.`,
})
