// How the scripts run Kedge's own programs.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { root } from './bootstrap.mjs'

export const tsx = [process.execPath, ['--import', 'tsx', join(root, 'src/terminal/kedge.ts')]]

/** Runs a terminal command of Kedge to its end and answers what it printed. */
export function kedge(args, env, { show = false } = {}) {
  const [command, base] = tsx
  const result = spawnSync(command, [...base, ...args], {
    cwd: root,
    env: { ...process.env, ...env },
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  if (result.status !== 0) throw new Error(`kedge ${args.join(' ')} failed`)
  if (show && result.stdout.trim()) console.log(result.stdout.trim())
  return result.stdout.trim()
}
