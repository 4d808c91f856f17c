import { mkdirSync } from 'node:fs'
import { join, relative } from 'node:path'

/** The folder for logs of what a test file starts; when one of its tests fails, the reporter names what lies there. */
export function logsOf(what: string): string {
  const file = relative(process.cwd(), expect.getState().testPath ?? 'unknown')
  const folder = join(
    process.env.KEDGE_TEST_LOGS ?? join(process.cwd(), '.data/test-logs'),
    file.replace(/^(src|tests)\//, '').replace(/\.test\.tsx?$/, ''),
    what,
  )
  mkdirSync(folder, { recursive: true })
  return folder
}
