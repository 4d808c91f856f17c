import { z } from 'zod'

/** Plain data as it travels in JSON. */
export type Json =
  string | number | boolean | null | undefined | readonly Json[] | { readonly [key: string]: Json }

export interface FieldProblem {
  /** Dotted path of the field in the input. */
  readonly path: string
  readonly message: string
}

/** A saved value that an edit did not expect. */
export interface Standing<K = unknown, V = unknown> {
  readonly key: K
  /** Null where nothing is saved. */
  readonly value: V | null
  readonly version: number
  readonly by: string
}

/** Why a query or command did not do what was asked. The message is for people; code reads `kind` and `code` only. */
export type Failure =
  | { readonly kind: 'invalid'; readonly message: string; readonly fields: readonly FieldProblem[] }
  | {
      readonly kind:
        | 'signed out'
        | 'password first'
        | 'choose school'
        /** Someone else, or the same person for another school, has signed in at this browser since the page was opened. */
        | 'other account'
        /** Not allowed and not there read alike, so that an id of another school gives nothing away. */
        | 'not found'
        /** The database is away or busy; the same again may succeed. */
        | 'unavailable'
        /** A fault of ours; the same again will fail again. */
        | 'fault'
      readonly message: string
    }
  /** A rule of the school's work forbids it. */
  | { readonly kind: 'refused'; readonly code: string; readonly about: Json; readonly message: string }
  /** Someone else changed it in the meantime; `standing` is what is saved. */
  | { readonly kind: 'conflict'; readonly message: string; readonly standing: readonly Standing[] }
  /** An act, or its preview, that is too large to be waited for: it is asked for as background work. */
  | { readonly kind: 'large'; readonly message: string; readonly rows: number }
  /** What an act would do is no longer what its preview showed. */
  | { readonly kind: 'preview changed'; readonly message: string; readonly preview: unknown }

export type Result<T> =
  | { readonly ok: true; readonly value: T; readonly run?: string }
  | { readonly ok: false; readonly failure: Failure }

/** Thrown inside a command or query to undo everything and answer with a failure. */
export class Refusal extends Error {
  constructor(readonly failure: Failure) {
    super(failure.message)
  }
}

type Words = Readonly<Record<string, (about: never) => string>>
type AboutOf<W extends Words, C extends keyof W> =
  Parameters<W[C]> extends [] ? Record<string, never> : Parameters<W[C]>[0]

/**
 * A domain's refusals: a table from codes to sentences, and the two ways to refuse with them.
 * @example
 * const { refuse, refuseField } = refusals('marks', { overMaximum: (a: { most: string }) => `The limit is ${a.most}.` })
 * throw refuse('overMaximum', { most: '10' })
 */
export function refusals<W extends Words>(domain: string, words: W) {
  const sentence = <C extends keyof W & string>(code: C, about: AboutOf<W, C>) =>
    (words[code] as (about: unknown) => string)(about)
  return {
    /** Refuses for a rule of the school's work. */
    refuse: <C extends keyof W & string>(code: C, about: AboutOf<W, C>): Refusal =>
      new Refusal({
        kind: 'refused',
        code: `${domain}.${code}`,
        about: about as Json,
        message: sentence(code, about),
      }),
    /** Refuses because of one field. */
    refuseField: <C extends keyof W & string>(path: string, code: C, about: AboutOf<W, C>): Refusal => {
      const message = sentence(code, about)
      return new Refusal({ kind: 'invalid', message, fields: [{ path, message }] })
    },
  }
}

/** Refuses because someone else has changed what is saved. */
export function conflict(message: string, standing: readonly Standing[]): Refusal {
  return new Refusal({ kind: 'conflict', message, standing })
}

/** The conflict of values that others have saved while they were typed. */
export function changedMeanwhile(what: string, standing: readonly Standing[]): Refusal {
  const by = [...new Set(standing.map((s) => s.by).filter(Boolean))].join(' and ') || 'Someone else'
  return conflict(`${by} changed ${what} while you were editing. Nothing was overwritten.`, standing)
}

export const notFound: Failure = {
  kind: 'not found',
  message: "Page not found, or you don't have access to it. Check the address, or ask the office for access.",
}
export const signedOut: Failure = {
  kind: 'signed out',
  message: 'You are signed out. Sign in again; your changes are kept.',
}
export const passwordFirst: Failure = {
  kind: 'password first',
  message: 'Choose your own password first.',
}
export const chooseSchool: Failure = { kind: 'choose school', message: 'Choose a school first.' }
export const otherAccount: Failure = {
  kind: 'other account',
  message:
    'You are signed in as someone else in this browser. Nothing was changed. Reload the page to continue.',
}
export const unavailable: Failure = {
  kind: 'unavailable',
  message: 'Kedge is not available at the moment. Nothing was changed. Please try again.',
}
export const fault: Failure = {
  kind: 'fault',
  message: 'Something went wrong in Kedge. Nothing was changed, and the error has been logged.',
}

/** Turns Zod's findings into field problems. */
export function invalid(error: z.ZodError): Failure {
  const fields = error.issues.map((i) => ({ path: i.path.join('.'), message: i.message }))
  return { kind: 'invalid', message: fields.map((f) => f.message).join(' '), fields }
}

/** Refuses an input with what is wrong with its fields; nothing wrong is nothing refused. */
export function refuseProblems(fields: readonly FieldProblem[]): void {
  if (fields.length > 0)
    throw new Refusal({ kind: 'invalid', message: fields.map((f) => f.message).join(' '), fields })
}

/** HTTP status of a failure. */
export const statusOf: Readonly<Record<Failure['kind'], number>> = {
  invalid: 400,
  'signed out': 401,
  'password first': 403,
  'choose school': 403,
  'other account': 403,
  'not found': 404,
  conflict: 409,
  large: 409,
  'preview changed': 409,
  refused: 422,
  unavailable: 503,
  fault: 500,
}
