import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('assessment', {
  notOwnClass: () => 'You do not teach one of these classes. Choose from your own classes.',
  severalSubjects: () => 'These classes are of different subjects. Choose classes of one subject.',
  otherSubject: () =>
    'These classes are of another subject than the assessment. Choose classes of its subject.',
  alreadyGiven: ({ classes }: { classes: string }) =>
    `It was given to ${classes} already. Choose other classes.`,
  audienceGone: () => 'Somebody it was to be shared with is no longer at the school. Choose again.',
  yearGroupGone: () => 'This year group no longer exists. Choose another one.',
  notATeacher: () => 'This colleague teaches no class at the moment. Choose another one.',
  notYourStudent: () =>
    'Some of these students are in classes of a colleague. Enter the answers of your own classes.',
  documentGone: () => 'The uploaded document no longer exists. Choose the file again.',
  mixedFiles: () =>
    'Choose one PDF, one word-processor file, or pictures alone; they cannot be joined with each other.',
  replacedMeanwhile: () => 'Another document was chosen meanwhile, so this one was not made.',
  notConverted: ({ name, problem }: { name: string; problem: string }) => `${name} ${problem}`,
  foreignQuestion: () => 'One of the questions belongs to another assessment. Reload the page.',
  questionTwice: () => 'One of the questions appears twice. Reload the page.',
  standardGone: ({ position }: { position: number }) =>
    `A learning standard of question ${position} no longer exists. Choose another one.`,
  kindWithAnswers: ({ position }: { position: number }) =>
    `Question ${position} has answers, so its kind stays as it is. Add a new question of the other kind, and remove this one.`,
  answersBeyond: ({ position, problem }: { position: number; problem: string }) =>
    `Question ${position} has answers that would not fit any more: ${problem}. Change those answers first.`,
  noAnswers: () => 'This student has no answers that could be removed.',
  misfit: ({ position, problem }: { position: number; problem: string }) =>
    `Question ${position}: ${problem}.`,
  notAnAnswer: ({ position, problem }: { position: number; problem: string }) =>
    `Question ${position}: this is not an answer to it. ${problem}`,
  pointsByKey: ({ position }: { position: number }) =>
    `Question ${position} is scored with its key. Enter the answer, not its points.`,
  overPoints: ({ position, points, most }: { position: number; points: string; most: string }) =>
    `Question ${position}: ${points} is more than its ${most} points.`,
  pointsWithout: ({ position }: { position: number }) =>
    `Question ${position} was left out and cannot have points.`,
  notOnRoll: () => 'This student was in none of the classes on the day of the assessment.',
  subjectGone: () => 'This subject no longer exists. Choose another one.',
  parentGone: () => 'The standard it was to stand under no longer exists. Choose another one.',
  underItself: () => 'A standard cannot stand under itself. Choose another one.',
  standardRemoved: () => 'This standard was removed by someone else in the meantime.',
  foreignStandard: () =>
    'One of these standards belongs to another set. Reload the page and read the file again.',
  setExists: () => 'This set already exists. Reload the page and read the file again.',
  standardsInUse: ({ standards }: { standards: number }) =>
    standards === 1
      ? 'Questions are tagged with this standard, so it stays.'
      : `Questions are tagged with ${standards} of these standards, so the set stays.`,
  standardHasOthers: () => 'Other standards stand under this one. Remove or move them first.',
  aboveMost: ({ name, points, most }: { name: string; points: string; most: number }) =>
    `${name} begins at ${points} points, but there are only ${most}. Enter fewer points, or a percentage.`,
  outOfOrder: ({ name, higher }: { name: string; higher: string }) =>
    `${name} must begin below ${higher}. Enter a lower value.`,
  standardUnused: () =>
    'A learning standard with its own levels is tagged to no question any more. Reload the page.',
  standardLevels: () => 'A learning standard needs one beginning for each level but the lowest.',
})
