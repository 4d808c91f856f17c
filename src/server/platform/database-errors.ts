import { spokenName } from '@/core/people/names'
import { isOutdatedPlan } from '@/db/prepared'
import { refusals, Refusal, fault, unavailable, type Failure } from './failure'

const { refuse } = refusals('platform', {
  exists: () => 'This already exists. Reload the page to see it.',
  gone: () =>
    'Something this refers to no longer exists, or is still in use elsewhere. Reload the page and try again.',
  merged: ({ name }: { name: string }) =>
    `The record of ${spokenName(name)} was merged into another one in the meantime. Nothing was saved here; open the other record.`,
  keyScored: () =>
    'Answers have been scored with this answer key in the meantime, so it stays as it was. Nothing was changed. Reload the page.',
  marksClosed: ({ className, period, by }: { className: string; period: string; by: string }) =>
    `The marks of ${className} for ${period} were closed by ${by}, so nothing that they rest on can be changed. The head or the office can reopen them.`,
  marksReported: ({ className, round, state }: { className: string; round: string; state: string }) =>
    `The report entries of ${className} for ${round} are ${state}, and show these marks. ${state === 'handed in' ? 'Take them back first.' : 'Ask the head to send them back first.'}`,
})

/** What a trigger of Kedge's says about what it refuses. */
const told = <T>(message: string) => JSON.parse(message) as T

/** What happened in the database, by SQLSTATE class or code. Codes of two people at once are tried again first. */
const byState: readonly (readonly [state: string, failure: (message: string) => Failure])[] = [
  // Raised by Kedge's own triggers, with the name of the student, or with what it is about.
  ['KE001', (name) => refuse('merged', { name }).failure],
  ['KE002', () => refuse('keyScored', {}).failure],
  ['KE003', (about) => refuse('marksClosed', told(about)).failure],
  ['KE004', (about) => refuse('marksReported', told(about)).failure],
  ['23505', () => refuse('exists', {}).failure],
  ['23P01', () => refuse('exists', {}).failure],
  ['23503', () => refuse('gone', {}).failure],
  // Values that a column cannot hold should have been refused by the input: a fault of ours.
  ['21', () => fault],
  ['22', () => fault],
  ['23', () => fault],
  // No connection, no resources, stopped by an operator or by a timeout, or a lock not had in time.
  ['08', () => unavailable],
  ['53', () => unavailable],
  ['55P03', () => unavailable],
  ['57', () => unavailable],
  ['40', () => unavailable],
]

const networkCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'EHOSTUNREACH',
])

/** Whether something could not be deleted because others refer to it. */
export const isForeignKeyViolation = (error: unknown): boolean =>
  (error as { code?: string } | null)?.code === '23503'

/** Whether something takes the place already that a row would have, or belongs to what no longer exists. */
export const isRuleViolation = (error: unknown): boolean =>
  /^23(505|503|P01|514)$|^KE00[12]/.test((error as { code?: string } | null)?.code ?? '')

/**
 * Whether trying again at once may succeed: two people got in each other's way, or the tables were changed under a
 * connection that had planned for what they were.
 */
export function passes(error: unknown): boolean {
  const code = (error as { code?: string } | null)?.code
  // Of statements that went out together, one that came after the outdated one may be heard of first.
  return code === '40001' || code === '40P01' || code === '25P02' || isOutdatedPlan(error)
}

/**
 * What an error means to whoever asked. Anything unknown is a fault of ours: it would fail again, so it is never
 * answered with "try again".
 */
export function failureOf(error: unknown): Failure {
  if (error instanceof Refusal) return error.failure
  const {
    code = '',
    message = '',
    status,
  } = (error ?? {}) as {
    code?: string
    message?: string
    status?: unknown
  }
  if (networkCodes.has(code) || /timeout exceeded when trying to connect|Connection terminated/.test(message))
    return unavailable
  // The sign-in package says no more than this when it cannot reach the database.
  if (status === 'INTERNAL_SERVER_ERROR') return unavailable
  return byState.find(([state]) => code.startsWith(state))?.[1](message) ?? fault
}
