import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import type { Entries, Entry } from './entry'

const folder = join(process.cwd(), 'tests/domains')
const others = new Set(['all.ts', 'entry.ts'])

/** What the walks know of every entry of the registry, by its full name: each domain's file in this folder. */
export async function allEntries(): Promise<ReadonlyMap<string, Entry>> {
  const files = readdirSync(folder).filter((file) => file.endsWith('.ts') && !others.has(file))
  const domains = await Promise.all(
    files.map(async (file) => {
      const name = file.replace(/\.ts$/, '')
      const { entries } = (await import(`./${name}`)) as { entries: Entries }
      return Object.entries(entries).map(([key, entry]): [string, Entry] => [`${name}.${key}`, entry])
    }),
  )
  return new Map(domains.flat())
}
