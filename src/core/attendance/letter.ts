import type { AttendanceFigures } from './figures'

/** What a letter about attendance can say of its student; each stands in the template in braces. */
export const letterFields = {
  guardian: 'name of the guardian',
  student: 'name of the student',
  sessions: 'half-days or lessons: what is counted',
  percent: 'per cent present',
  present: 'sessions present',
  possible: 'possible sessions',
  missed: 'sessions missed',
  'with reason': 'of them with a reason',
  'no reason': 'of them without a reason yet',
  late: 'times late',
  from: 'first day counted',
  to: 'last day counted',
  school: 'name of the school',
  sender: 'who sends the letter',
} as const
export type LetterField = keyof typeof letterFields
export type LetterValues = Readonly<Record<LetterField, string>>

/** Own keys alone: every object also answers to names such as constructor. */
const isField = (name: string): name is LetterField => Object.hasOwn(letterFields, name)
const filled = (name: string, values: LetterValues) => (isField(name) ? values[name] : undefined)

const braces = /\{([^{}]*)\}/g

/** Fields in braces that there are not. */
export const unknownFields = (text: string): readonly string[] =>
  [...text.matchAll(braces)].flatMap(([, name = '']) => (isField(name.trim()) ? [] : [name]))

/** A template with its fields filled in; braces that are no field stay as they are. */
export const fillLetter = (text: string, values: LetterValues): string =>
  text.replace(braces, (whole, name: string) => filled(name.trim(), values) ?? whole)

/** What the figures say, as a letter writes it. */
export const figureValues = (figures: Omit<AttendanceFigures, 'unmarked'>) => ({
  percent: figures.percentPresent === undefined ? 'no' : `${figures.percentPresent}%`,
  present: String(figures.present),
  possible: String(figures.possible),
  missed: String(figures.withReason + figures.withoutReason),
  'with reason': String(figures.withReason),
  'no reason': String(figures.withoutReason),
  late: String(figures.late),
})
