import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('assessment', {
  notOwnClass: () => 'You do not teach one of these classes. Choose from your own classes.',
  severalSubjects: () => 'These classes are of different subjects. Choose classes of one subject.',
  documentGone: () => 'The uploaded document no longer exists. Choose the file again.',
  foreignQuestion: () => 'One of the questions belongs to another assessment. Reload the page.',
  questionTwice: () => 'One of the questions appears twice. Reload the page.',
  standardGone: ({ position }: { position: number }) =>
    `The learning standard of question ${position} no longer exists. Choose another one.`,
  answersBeyond: ({ position }: { position: number }) =>
    `Question ${position} has answers beyond its new number of choices. Change those answers first.`,
  noAnswers: () => 'This student has no answers that could be removed.',
  notAChoice: ({ position, letter }: { position: number; letter: string }) =>
    `Question ${position}: ${letter} is not one of its choices.`,
  notOnRoll: () => 'This student was in none of the classes on the day of the assessment.',
})
