import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'

/** The version in package.json and, where git knows it, the commit: `0.1.0+0a1b2c3`. */
export function versionOfCode(): string {
  const root = process.cwd()
  const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { version: string }
  const { status, stdout } = spawnSync('git', ['-C', root, 'rev-parse', '--short', 'HEAD'], {
    encoding: 'utf8',
  })
  return status === 0 ? `${version}+${stdout.trim()}` : version
}
