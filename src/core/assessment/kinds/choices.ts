import { limits } from '@/core/limits'
import type { Zod } from './kind'

/** The letters printed beside choices, A first. A choice is known by its letter, wherever it is moved to. */
export const choiceLetters = 'ABCDEFGHIJ'

export const firstChoices = (count: number): readonly string[] => [...choiceLetters.slice(0, count)]

/** The choices of a question: 2 to 10, each once. */
export const choicesSchema = (z: Zod) =>
  z
    .array(z.string().regex(/^[A-J]$/))
    .min(2, 'A question has at least two choices.')
    .max(limits.choices)
    .refine((choices) => new Set(choices).size === choices.length, 'Each choice can be there once.')

/** Which letters can be typed: "A to D". */
export const choiceRange = (choices: readonly string[]): string =>
  `${choices[0] ?? ''} to ${choices.at(-1) ?? ''}`
