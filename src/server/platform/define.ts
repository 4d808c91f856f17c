import { sql, type RawBuilder } from 'kysely'
import type { Tables } from '@/db/tables'
import type { Context } from './context'
import { giveName, type Command, type Query } from './entry'
import type { FileUse } from './files'
import type { Invariant } from './invariants'
import type { Job } from './job'
import type { MailKind } from './mail'
import type { Recurring } from './recurring'
import type { Right } from './rights'
import type { Topic } from './topic'
import type { TableWords } from './words'

export * from './entry'

/** Something that is due for a person, and the address at which it is done. */
export interface DueItem {
  readonly what: string
  readonly detail: string
  readonly href: string
  /** When it is due; a date, or a half-day today. */
  readonly due: string
  readonly overdue: boolean
  /** The date is when it began to wait, not a deadline. */
  readonly since?: boolean
  readonly act: string
  /** How many things wait, where it is one line for several. */
  readonly count?: number
}

export interface DueSource {
  /** Stands before everything else, whatever its date. */
  readonly first?: boolean
  /** What the actor's items follow, by role and by homeroom or class. */
  readonly topics: (context: Context) => readonly Topic[] | Promise<readonly Topic[]>
  readonly items: (context: Context, date: string) => Promise<readonly DueItem[]>
}

export interface Found {
  readonly kind: string
  readonly id: string
  readonly name: string
  readonly detail: string
  readonly href: string
}

/** A text without accents and case, as names are compared; students and guardians hold theirs as `plain_name`. */
export const plainText = (text: RawBuilder<unknown>): RawBuilder<string> => sql<string>`kedge_plain(${text})`

/** Whether a plain text holds all the words looked for. */
export const holdsAll = (plain: RawBuilder<unknown>, words: readonly string[]): RawBuilder<boolean> =>
  sql<boolean>`${plain} like all (${[...words]})`

/**
 * For an `order by`: 0 for a plain text in which every word looked for begins a word, 1 for the others, so that "ils"
 * finds Ilse before Nils.
 */
export const bestFirst = (plain: RawBuilder<unknown>, words: readonly string[]): RawBuilder<number> =>
  sql`case when translate(' ' || ${plain}, '-,''', '   ') like all (${words.map((word) => `% ${word.slice(1)}`)}) then 0 else 1 end`

/** Answers a select of Found's columns for words as `like` patterns, or undefined where the actor may find none. */
export type FindSource = (context: Context, words: readonly string[]) => RawBuilder<Found> | undefined

/** A place of the rail, a page of a place, or something to do that the find box alone knows. */
export interface Place {
  readonly name: string
  readonly href: string
  /** The beginning of other addresses that belong to it. */
  readonly also?: readonly string[]
  readonly right: Right<unknown>
  /** The place whose page it is. */
  readonly of?: string
  /** The heading under which it stands among the pages of its place. */
  readonly group?: string
  /** Where it stands in the rail, or among the pages of its place; without one it is found, not shown. */
  readonly position?: number
}

// A domain holds entries of all types; each is checked where it is declared.
/* eslint-disable @typescript-eslint/no-explicit-any */
export type AnyQuery = Query<any, any, any>
export type AnyCommand = Command<any, any, any>
export type AnyJob = Job<any>
export type AnyMail = MailKind<any>
/* eslint-enable @typescript-eslint/no-explicit-any */

/** Everything a domain contributes. docs/adding-a-domain.md goes through it. */
export interface Domain {
  readonly name: string
  /** The tables that are this domain's own. */
  readonly tables: readonly (keyof Tables)[]
  /** Domains whose tables it reads. */
  readonly reads: readonly string[]
  /** Domains whose tables it also writes; what another must change goes through a function that it exports. */
  readonly writes?: readonly string[]
  readonly queries: Readonly<Record<string, AnyQuery>>
  readonly commands: Readonly<Record<string, AnyCommand>>
  readonly jobs?: Readonly<Record<string, AnyJob>>
  readonly recurring?: Readonly<Record<string, Recurring>>
  readonly mails?: Readonly<Record<string, AnyMail>>
  readonly due?: readonly DueSource[]
  readonly find?: readonly FindSource[]
  readonly places?: readonly Place[]
  readonly files?: readonly FileUse[]
  /** What holds at the end of every change. */
  readonly invariants?: readonly Invariant[]
  /** How rows of its tables read in a history. */
  readonly history?: Readonly<Record<string, TableWords>>
}

/** Declares a domain; its entries get their names from their keys. */
export function defineDomain<const D extends Domain>(domain: D): D {
  for (const entries of [domain.queries, domain.commands, domain.jobs, domain.mails, domain.recurring])
    for (const [key, entry] of Object.entries(entries ?? {})) giveName(entry, `${domain.name}.${key}`)
  return domain
}
