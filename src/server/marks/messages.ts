import { spokenName } from '@/core/people/names'
import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('marks', {
  noYear: () => 'There is no academic year with terms yet. An administrator can create one under School.',
  assignmentGone: () => 'This assignment is no longer in the gradebook. Reload the page.',
  linkedScore: ({ assignment }: { assignment: string }) =>
    `${assignment} takes its scores from the assessment. Change the answers there and the score follows; here you can enter missing or excused.`,
  linkedAnswers: ({ assignment, student }: { assignment: string; student: string }) =>
    `${student} has answers in the assessment of ${assignment}, and they count. Remove the answers there first.`,
  overMaximum: (about: { points: string; most: string; assignment: string }) =>
    `${about.points} is over the maximum of ${about.most} for ${about.assignment}. Enter a lower score, or raise the maximum.`,
  notInClass: () => 'One of the students is not in this class. Reload the page.',
  termOfOther: () => 'This class is not taught in that term. Choose another term on the year line.',
  categoryMissing: ({ className, name }: { className: string; name: string }) =>
    `The gradebook of ${className} has no category ${name} in that term. Leave the class out, or add the category there first.`,
  categoryInUse: ({ name, className }: { name: string; className: string }) =>
    `${name} still holds assignments in ${className}. Keep it in the list, or move them to another category first.`,
  partGone: () => 'This is no longer in the gradebook, or not in its term. Choose another one.',
  columnGone: () => 'This column is no longer in the gradebook. Reload the page.',
  columnCircle: ({ names }: { names: readonly string[] }) =>
    `The columns would feed themselves: ${names.join(' reads ')}. Take one of them out.`,
  columnIsRead: ({ name, reader }: { name: string; reader: string }) =>
    `${name} is part of the calculated column ${reader}. Take it out there first.`,
  periodOfOther: () => 'This class has no marks in that part of the year. Reload the page.',
  marksState: ({ state }: { state: string }) =>
    `These marks are ${state} by now, so this cannot be done. Reload the page.`,
  nothingToConfirm: () =>
    'There is nothing to confirm: no column belongs to the whole year. Add one in the gradebook first.',
  noMarkYet: ({ names }: { names: readonly string[] }) =>
    `${names.map(spokenName).join(', ')} ${names.length === 1 ? 'has' : 'have'} no mark yet.`,
  columnKind: () => 'What a column holds cannot be changed. Add another column, and delete this one.',
  columnOwn: () =>
    'Other classes do not have these assignments or columns. Choose marks and categories, or leave the classes out.',
  columnCalculated: ({ name }: { name: string }) =>
    `${name} is calculated, so nothing is entered in it. Change what it is calculated from.`,
  columnHeld: ({ name }: { name: string }) =>
    `${name} is part of marks that were confirmed. Take those back first.`,
  columnFeeds: ({ name }: { name: string }) =>
    `${name} fills a line of a report. Choose another column for that line first, under Reports.`,
  choiceInUse: ({ name, students }: { name: string; students: number }) =>
    `${name} is entered for ${students === 1 ? '1 student' : `${students} students`}. Keep it in the list, or rename it.`,
  entryUnknown: ({ value, column }: { value: string; column: string }) =>
    `${value} cannot be entered in ${column}. Reload the page to see what can be.`,
  noTerm: () => 'This date is not in any term. Choose a day within a term.',
  categoryOfOther: () =>
    "This category is not in the gradebook of the date's term. Choose one from the list.",
  belowScore: ({ student, points }: { student: string; points: string }) =>
    `${student} has ${points} here. The maximum cannot be lower than an existing score.`,
  orderGone: () => 'An assignment was added or deleted meanwhile. Close this and open it again.',
  notGiven: ({ className }: { className: string }) => `This assessment was not given to ${className}.`,
  givenInNoTerm: ({ className }: { className: string }) =>
    `${className} sat it on a day that is in no term, and a gradebook is that of a term.`,
  noPoints: () => 'The questions carry no points yet. Set their points first.',
  notLinked: () => 'This assignment is not linked with an assessment any more. Reload the page.',
  noStandards: () => 'Its questions are tagged with no learning standard yet. Tag them first.',
  linkedOtherwise: ({ name }: { name: string }) =>
    `${name} is linked with an assessment already. Unlink it first, or choose another one.`,
  hasScores: ({ name, scores }: { name: string; scores: number }) =>
    `${name} has ${scores === 1 ? '1 score' : `${scores} scores`} of its own. Remove ${scores === 1 ? 'it' : 'them'} first, or choose another assignment.`,
  alreadyLinked: ({ className }: { className: string }) =>
    `This assessment is already in the gradebook of ${className}.`,
})
