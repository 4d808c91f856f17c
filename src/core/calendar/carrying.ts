/** What is known of a class and of its place in the next term, before it is carried there. */
export interface CarryFacts {
  /** Whether the next term's year has a class of this name, and of the same course. */
  readonly there: 'none' | 'same course' | 'other course'
  /** Whether that class runs in the next term already. */
  readonly inTerm: boolean
  /** Whether it has its marks settings there already. */
  readonly hasMarks: boolean
  /** How many categories would travel. */
  readonly categories: number
}

/** What carrying a class would do. */
export type CarryState =
  /** A new class is created in the next year. */
  | 'new class'
  /** The class is there; the term is added to it. */
  | 'new term'
  /** The class runs in the term; only its categories and rules are copied. */
  | 'marks settings'
  /** Nothing is left to do. */
  | 'exists'
  /** A class of another course has the name. */
  | 'name taken'

/** Decides what carrying a class to the next term would do. Doing it and deciding again always gives `exists`. */
export function carryState({ there, inTerm, hasMarks, categories }: CarryFacts): CarryState {
  if (there === 'other course') return 'name taken'
  if (there === 'none') return 'new class'
  if (!inTerm) return 'new term'
  return categories > 0 && !hasMarks ? 'marks settings' : 'exists'
}

/** Whether a class in this state can be carried. */
export const canBeCarried = (state: CarryState): boolean => state !== 'exists' && state !== 'name taken'

/** The facts once a class in a state that can be carried has been. */
export function afterCarrying(facts: CarryFacts): CarryFacts {
  return canBeCarried(carryState(facts))
    ? { ...facts, there: 'same course', inTerm: true, hasMarks: facts.hasMarks || facts.categories > 0 }
    : facts
}
