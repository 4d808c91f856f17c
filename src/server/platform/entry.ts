import type { z } from 'zod'
import type { Context, Right } from './context'
import type { Json } from './failure'
import type { Topic } from './topic'

/**
 * What arrives at the other end when a value travels as JSON; what cannot travel is `never`, so that a page that
 * would need it does not compile.
 */
export type Serialized<T> = T extends string | number | boolean | null | undefined
  ? T
  : T extends Date | bigint | Uint8Array | ReadonlyMap<unknown, unknown> | ReadonlySet<unknown>
    ? never
    : T extends (...args: never[]) => unknown
      ? never
      : { [K in keyof T]: Serialized<T[K]> }

export interface Query<I = unknown, O = unknown, Raw = unknown> {
  readonly kind: 'query'
  readonly input: z.ZodType<I, Raw>
  readonly right: Right<I>
  /** Whose changes make the answer stale; a query without is not live. */
  readonly topics?: (context: Context, input: I) => readonly Topic[] | Promise<readonly Topic[]>
  /** Who asks: a page, or only the server itself, since the answer does not travel as JSON. */
  readonly by?: 'server'
  /** Goes through more than a page shows; only a few of these run at once. */
  readonly isHeavy?: boolean
  readonly run: (context: Context, input: I) => Promise<O>
}

/** How a run of a command is taken back from the history. */
export interface UndoRule {
  /** Days within which it can be undone. */
  readonly days: number
  /** Whether rows changed since stop the undo, or are left as they are. */
  readonly whenChangedSince: 'stop' | 'leave'
  /** Told who follows these topics once it is undone. */
  readonly topics?: (input: never) => readonly Topic[]
  /** What else goes with an undo, such as the version of the whole that the rows are part of. */
  readonly after?: (context: Context, input: never) => Promise<void>
}

export interface Command<I = unknown, O = unknown, Raw = unknown> {
  readonly kind: 'command'
  readonly input: z.ZodType<I, Raw>
  readonly right: Right<I>
  /** Who runs it: a person, or only background work or the server itself, which never answer over HTTP. */
  readonly by?: 'job' | 'server'
  /** Why it takes no version that was seen: it creates, appends, fills only what is empty, compares a state. */
  readonly needsNoVersion?: string
  /** One moment for the whole run, for commands that freeze figures. */
  readonly moment?: 'one'
  readonly undo?: UndoRule
  /** What may change more than a page waits for; then it runs as background work, under a title of its own. */
  readonly large?: {
    /** About how many rows a run will change. */
    readonly rows: (context: Context, input: I) => Promise<number>
    readonly title: (context: Context, input: I) => Promise<string>
  }
  readonly run: (context: Context, input: I) => Promise<O>
}

const names = new WeakMap<object, string>()

/** The full name of a query, command, job or mail: the domain's and its key. */
export const nameOf = (entry: object): string => names.get(entry) ?? 'unnamed'

/** Gives an entry its full name. */
export const giveName = (entry: object, name: string): void => void names.set(entry, name)

/** Declares a read. All reads of a school's data are declared so. */
export function defineQuery<I, O, Raw>(query: Omit<Query<I, O, Raw>, 'kind'>): Query<I, O, Raw> {
  return { kind: 'query', ...query }
}

/** Declares a change. Everything it does happens in one transaction, or not at all, and is kept in the history. */
export function defineCommand<I, O extends Json | object, Raw>(
  command: Omit<Command<I, O, Raw>, 'kind'>,
): Command<I, O, Raw> {
  return { kind: 'command', ...command }
}
