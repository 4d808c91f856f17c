import { z } from 'zod'

export interface FieldProblem {
  /** Dotted path of the field in the input. */
  readonly path: string
  readonly message: string
}

/** Why a query or command did not do what was asked, in a form a person can be shown. */
export type Failure =
  | { readonly kind: 'invalid'; readonly message: string; readonly fields: readonly FieldProblem[] }
  | { readonly kind: 'signed out'; readonly message: string }
  | { readonly kind: 'password first'; readonly message: string }
  /** Not allowed and not there are told alike, so that an id of another school tells nothing. */
  | { readonly kind: 'not found'; readonly message: string }
  /** Somebody else changed it meanwhile; `current` is what stands now. */
  | { readonly kind: 'conflict'; readonly message: string; readonly current: unknown }
  /** A rule of the school's work forbids it; the message says which and what to do. */
  | { readonly kind: 'refused'; readonly message: string }

export type Result<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly failure: Failure }

/** Thrown inside a command or query to undo everything and answer with a failure. */
export class Refusal extends Error {
  constructor(readonly failure: Failure) {
    super(failure.message)
  }
}

/** Refuses for a rule of the school's work. */
export function refuse(message: string): Refusal {
  return new Refusal({ kind: 'refused', message })
}

/** Refuses because of one field. */
export function refuseField(path: string, message: string): Refusal {
  return new Refusal({ kind: 'invalid', message, fields: [{ path, message }] })
}

export const notFound: Failure = {
  kind: 'not found',
  message: 'This is not there, or it is not yours to see. Check the address, or ask the office for access.',
}

/** Turns Zod's findings into field problems. */
export function invalid(error: z.ZodError): Failure {
  const fields = error.issues.map((i) => ({ path: i.path.join('.'), message: i.message }))
  return { kind: 'invalid', message: fields.map((f) => f.message).join(' '), fields }
}

/** HTTP status of a failure. */
export const statusOf: Readonly<Record<Failure['kind'], number>> = {
  invalid: 400,
  'signed out': 401,
  'password first': 403,
  'not found': 404,
  conflict: 409,
  refused: 422,
}
