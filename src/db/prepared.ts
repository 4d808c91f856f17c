import { createHash } from 'node:crypto'
import pg from 'pg'

/**
 * How many different statements a process prepares at most. Each is kept by every connection that has used it, with
 * its plan (some tens of kilobytes); those that come after it work as well, planned each time.
 */
const most = 400

/** Longer ones are filled with rows or ids, take long anyway, and would be kept as long as they are. */
const longest = 20_000

const seen = new Set<string>()
const names = new Map<string, string>()

/**
 * The name under which connections prepare a statement; undefined for one that is seen for the first time, since what
 * is never repeated (a list of ids of another length each time) is not worth keeping.
 * @param text the statement with its parameters as $1, $2, …
 */
export function preparedName(text: string): string | undefined {
  const known = names.get(text)
  if (known !== undefined) return known
  if (names.size >= most || text.length > longest) return undefined
  if (!seen.has(text)) {
    // Forgotten before they grow without bounds: what is repeated comes again.
    if (seen.size >= most * 10) seen.clear()
    seen.add(text)
    return undefined
  }
  seen.delete(text)
  const name = createHash('sha256').update(text).digest('base64url').slice(0, 32)
  names.set(text, name)
  return name
}

/** Whether a connection has prepared a statement for tables that look different by now. */
export function isOutdatedPlan(error: unknown): boolean {
  const { code, message = '' } = (error ?? {}) as { code?: string; message?: string }
  return code === '0A000' && message.includes('cached plan')
}

/**
 * A connection that parses and plans each repeated statement once and not with every page: of a page's statements the
 * planning took longer than the doing.
 */
export class PreparingClient extends pg.Client {
  // The driver's own types know many forms; those of the query builder, a text with its values, are what is prepared.
  override query = ((text: unknown, values?: unknown, ...rest: unknown[]) => {
    const plain = super.query.bind(this) as (...all: unknown[]) => unknown
    if (typeof text !== 'string' || !Array.isArray(values) || values.length === 0)
      return plain(text, values, ...rest)
    const name = preparedName(text)
    if (name === undefined) return plain(text, values, ...rest)
    return (plain({ name, text, values }) as Promise<unknown>).catch((error: unknown) => {
      // It would go on failing: the pool takes another connection for the next.
      if (isOutdatedPlan(error)) void this.end()
      throw error
    })
  }) as pg.Client['query']
}
