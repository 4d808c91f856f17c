import type { RawBuilder, Transaction } from 'kysely'
import type { Tables } from '@/db/tables'
import type { Actor, Role } from './actor'
import type { Topic } from './topic'

/** How an actor stands to an object, as a condition on the object's id: teaches the class, is the child's guardian. */
export interface Relation {
  readonly words: string
  readonly holds: (context: Context, id: RawBuilder<unknown>) => RawBuilder<boolean>
}

export interface Grant {
  readonly roles: readonly Role[]
  /** Only for objects to which the actor stands so; for all objects of the school without it. */
  readonly when?: Relation
}

/** Who may do something, as data: checked for one object, used to filter lists, and printed for people. */
export interface Right<I> {
  /** Completes "may …": "enter scores". */
  readonly words: string
  readonly grants: readonly Grant[]
  /** The object the right is about; it is always checked to exist in the actor's school. */
  readonly object?: keyof Tables
  /** The object's id in the input, or those of all it is about; without one, only grants for all objects count. */
  readonly of?: (input: I) => string | readonly string[] | null | undefined
  /** A further fact about the input that must hold. */
  readonly and?: (input: I) => RawBuilder<boolean>
}

/** What a query or command works with: one transaction, with the actor's school set for row-level security. */
export interface Context {
  readonly db: Transaction<Tables>
  readonly actor: Actor
  readonly now: Date
  /** Today's civil date where the school is. */
  readonly today: string
  /** The id of this run of a command, which its history rows carry; empty for a query. */
  readonly runId: string
  /** Tells everyone who follows these topics, once the transaction is committed. */
  readonly changed: (...topics: readonly Topic[]) => void
  /** Says how far a large act is; throws when it was cancelled. Where nobody follows it, nothing happens. */
  readonly progress: (done: number, total: number) => Promise<void>
  /** What is written when all else is done, together with what is announced. */
  readonly lastly: (...writes: readonly (() => Promise<unknown> | undefined)[]) => void
  /** Whether the actor has a right, for offering only what can be done. */
  readonly may: <I>(right: Right<I>, input: I) => Promise<boolean>
}

export interface RunOptions {
  readonly command: string
  readonly runId?: string
  /** The run that this one takes back. */
  readonly undoes?: string
  readonly tab?: string
  readonly progress?: Context['progress']
}
