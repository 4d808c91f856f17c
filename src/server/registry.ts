import { domains } from './domains'
import { front } from './front'
import {
  nameOf,
  type AnyCommand,
  type AnyJob,
  type AnyMail,
  type AnyQuery,
  type Domain,
  type Serialized,
} from './platform/define'
import type { Recurring } from './platform/recurring'

const everything = [...domains, ...front] as const
type Everything = (typeof everything)[number]

type EntriesOf<D, K extends 'queries' | 'commands'> = D extends Domain
  ? { [E in keyof D[K] & string as `${D['name']}.${E}`]: D[K][E] }
  : never
type Joined<U> = (U extends unknown ? (union: U) => void : never) extends (all: infer I) => void ? I : never
type Queries = Joined<EntriesOf<Everything, 'queries'>>
type Commands = Joined<EntriesOf<Everything, 'commands'>>

export type QueryName = keyof Queries & string
export type CommandName = keyof Commands & string

type RunOf<E> = E extends { run: (context: never, input: never) => Promise<infer O> } ? O : never
type RawOf<E> = E extends { input: { _zod: { input: infer I } } } ? I : never

/** What a query or command takes and answers, by its name; for the client, as types alone. */
export type QueryInput<N extends QueryName> = RawOf<Queries[N]>
export type QueryOutput<N extends QueryName> = Serialized<RunOf<Queries[N]>>
export type CommandInput<N extends CommandName> = RawOf<Commands[N]>
export type CommandOutput<N extends CommandName> = Serialized<RunOf<Commands[N]>>

const untyped: readonly Domain[] = everything
const byName = <T extends object>(of: (domain: Domain) => Readonly<Record<string, T>> | undefined) =>
  new Map(
    untyped.flatMap((domain) => Object.values(of(domain) ?? {}).map((e): [string, T] => [nameOf(e), e])),
  )

/** Every read of a school's data, every change, and everything else that domains contribute, by full name. */
export const queries: ReadonlyMap<string, AnyQuery> = byName((domain) => domain.queries)
export const commands: ReadonlyMap<string, AnyCommand> = byName((domain) => domain.commands)
export const jobs: ReadonlyMap<string, AnyJob> = byName((domain) => domain.jobs)
export const mails: ReadonlyMap<string, AnyMail> = byName((domain) => domain.mails)
export const recurring: ReadonlyMap<string, Recurring> = byName((domain) => domain.recurring)
