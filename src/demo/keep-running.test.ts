import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { pathToFileURL } from 'node:url'

interface Kept {
  stop: () => void
  child: () => ChildProcess
}
interface Part {
  name: string
  start: () => Promise<ChildProcess>
  log: string
  say: (message: string) => void
  giveUp: (message: string) => void
}

const { keepRunning } = (await import(
  pathToFileURL(`${process.cwd()}/scripts/lib/keep-running.mjs`).href
)) as {
  keepRunning: (part: Part) => Promise<Kept>
}

const said: string[] = []
const until = async (test: () => boolean) => {
  for (let n = 0; n < 400 && !test(); n++) await new Promise((resolve) => setTimeout(resolve, 25))
}
const part = (script: string, giveUp: (message: string) => void) =>
  keepRunning({
    name: 'The worker',
    start: async () => {
      const child = spawn(process.execPath, ['-e', script])
      await once(child, 'spawn')
      return child
    },
    log: '/data/logs/worker.log',
    say: (message) => said.push(message),
    giveUp,
  })
beforeEach(() => said.splice(0))

test('a part that is killed is started again, and it is said', async () => {
  const kept = await part('setInterval(() => {}, 1000)', (message) => said.push(message))
  const first = kept.child()
  first.kill('SIGKILL')
  await until(() => said.length > 0 && kept.child() !== first)
  expect(said).toEqual(['The worker ended by itself (SIGKILL) and is started again.'])
  expect(kept.child().exitCode).toBeNull()
  kept.stop()
  const second = kept.child()
  second.kill()
  await once(second, 'exit')
  expect(said).toHaveLength(1)
})

test('one that ends again and again is given up, with where its log is', async () => {
  let given = ''
  await part('process.exit(7)', (message) => (given = message))
  await until(() => given !== '')
  expect(said).toHaveLength(3)
  expect(given).toBe(
    'The worker ended by itself (exit code 7), more than 3 times in a minute. Its log: /data/logs/worker.log',
  )
})
