// Tells whether what something was made from has changed, by contents and not by dates: a fresh clone has new dates.
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

export const root = new URL('../..', import.meta.url).pathname.replace(/\/$/, '')

function* filesIn(path) {
  if (!statSync(join(root, path)).isDirectory()) return yield path
  for (const name of readdirSync(join(root, path)).sort()) yield* filesIn(join(path, name))
}

/**
 * A hash of the contents of files and folders, of the release of Node, and of nothing else. Tests do not count.
 * @param {readonly string[]} paths from the project's root
 */
export function fingerprint(paths) {
  const hash = createHash('sha256').update(process.version)
  for (const path of paths)
    for (const file of filesIn(path))
      if (!/\.test\.tsx?$/.test(file)) hash.update(`\0${file}\0`).update(readFileSync(join(root, file)))
  return hash.digest('hex')
}
