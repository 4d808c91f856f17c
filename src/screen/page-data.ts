import { headers } from 'next/headers'
import { notFound as noPage, redirect } from 'next/navigation'
import { cache } from 'react'
import type { Actor } from '@/server/platform/actor'
import { civilDate } from '@/core/inputs'
import { failureOf } from '@/server/platform/database-errors'
import type { Failure } from '@/server/platform/failure'
import { executeTogether } from '@/server/platform/run'
import { readSession, schoolsOf, type SchoolChoice } from '@/server/platform/session'
import { today } from '@/server/platform/clock'
import { queries, type QueryInput, type QueryName, type QueryOutput } from '@/server/registry'

const session = cache(async () => {
  try {
    return await readSession(new Headers(await headers()), { isAct: true })
  } catch (error) {
    // The sign-in package throws when the database is away.
    throw pageError(failureOf(error))
  }
})

/** Who is signed in; others are sent to sign in, or to choose a password first. */
export const actor = cache(async (): Promise<Actor> => {
  const found = await session()
  if (found.kind === 'signed out') {
    const path = (await headers()).get('x-kedge-path') ?? '/'
    redirect(path === '/' || path === '/today' ? '/sign-in' : `/sign-in?next=${encodeURIComponent(path)}`)
  }
  if (found.kind === 'choose school') redirect('/choose-school')
  if (found.kind === 'password first') redirect('/set-password')
  return found.actor
})

/** The session, for the pages before a school is entered. */
export const currentSession = session

/** Who is signed in, with the schools to choose from; undefined for nobody. */
export async function currentSchools(): Promise<
  { name: string; schools: readonly SchoolChoice[] } | undefined
> {
  return schoolsOf(new Headers(await headers()))
}

/** All queries of one page are answered from one moment. */
const together = cache(async () => executeTogether(await actor()))

/** Answers a query for a page; what does not exist or may not be seen shows the page that says so. */
export async function fetchForPage<N extends QueryName>(
  name: N,
  input: QueryInput<N>,
): Promise<QueryOutput<N>> {
  const query = queries.get(name)
  if (!query) throw new Error(`there is no query ${name}`)
  const result = await (await together())(query, input)
  if (result.ok) return result.value as QueryOutput<N>
  if (result.failure.kind === 'not found' || result.failure.kind === 'invalid') noPage()
  throw pageError(result.failure)
}

/** An error whose digest, the one thing that reaches the browser, tells the error page what happened. */
function pageError({ kind, message }: Failure): Error {
  const known = kind === 'unavailable' ? 'unavailable' : kind === 'refused' ? `refused:${message}` : 'fault'
  return Object.assign(new Error(message), { digest: `kedge:${known}` })
}

type SearchParams = Promise<Record<string, string | string[] | undefined>>

/** One value of the address, if it is there once. */
export async function param(searchParams: SearchParams, name: string): Promise<string | undefined> {
  const value = (await searchParams)[name]
  return typeof value === 'string' ? value : undefined
}

/** The chosen date: the address's, else today at the school. */
export async function workingDate(searchParams: SearchParams): Promise<string> {
  const asked = await param(searchParams, 'date')
  return asked && civilDate.safeParse(asked).success ? asked : today((await actor()).timeZone)
}
