import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { setTimeout as rest } from 'node:timers/promises'

const running = new Set<ChildProcess>()

/** Ends whatever a test has left running. */
export const endParts = () => {
  for (const child of running) child.kill('SIGKILL')
}

/** A free port on the loopback address. */
export async function freePort() {
  const ports = (await import(join(process.cwd(), 'scripts/lib/ports.mjs'))) as {
    freePort: () => Promise<number>
  }
  return ports.freePort()
}

export interface Line {
  readonly level: string
  readonly time: string
  readonly part: string
  readonly version: string
  readonly event?: string
  readonly msg: string
}

/** A part of Kedge as a process, with the lines of its log and its end. */
export function start(args: readonly string[], env: Record<string, string | undefined>) {
  const child = spawn(process.execPath, ['--import', 'tsx', 'src/terminal/kedge.ts', ...args], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      NODE_OPTIONS: '',
      NODE_NO_WARNINGS: '1',
      LOG_LEVEL: 'info',
      KEDGE_LOG: undefined,
      ...env,
    },
  })
  running.add(child)
  let printed = ''
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk: Buffer) => (printed += chunk.toString()))
  const ended = new Promise<number | null>((resolve) =>
    child.once('close', (code) => {
      running.delete(child)
      resolve(code)
    }),
  )
  const lines = () =>
    printed
      .split('\n')
      .filter((line) => line.startsWith('{'))
      .map((line) => JSON.parse(line) as Line)
  return {
    child,
    ended,
    lines,
    printed: () => printed,
    until: async (what: (lines: readonly Line[]) => boolean) => {
      for (let n = 0; n < 600 && !what(lines()); n++) {
        if (child.exitCode !== null) throw new Error(`it ended: ${printed}`)
        await rest(100)
      }
      if (!what(lines())) throw new Error(`it was not said: ${printed}`)
    },
  }
}

export const ready = (lines: readonly Line[]) => lines.some((l) => l.event === 'ready')

/** The web application at a port of its own. */
export async function startWeb(env: Record<string, string | undefined>) {
  const port = await freePort()
  const part = start(['web'], { PORT: String(port), HOST: '127.0.0.1', ...env })
  return { ...part, url: `http://127.0.0.1:${port}` }
}
