// npm test: everything that must be true, on a fresh machine, in one go.
// With words after it, only those parts (npm test -- lint unit) or test files (npm test -- editing school);
// "record" keeps the times of what runs. After another -- come words for Jest: -- -t 'a name'.
import { join } from 'node:path'
import { ensureDataFolder, ensureDebianPackages, ensureNodeModules } from './lib/bootstrap.mjs'
import { checks, foundations } from './test/parts.mjs'
import { nameOf, readWords, testFiles } from './test/words.mjs'

// Ended from outside, it ends all that it started.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, () => process.exit(1))

const started = Date.now()
/** Two cores are what every machine has; more change nothing that is tested. */
const lanes = 2

function wanted() {
  try {
    return readWords(process.argv.slice(2))
  } catch (error) {
    console.error(error.message)
    process.exit(1)
  }
}
const asked = wanted()
const needsBrowser = asked.foundations.includes('build')
const needsDatabase = asked.foundations.includes('templates')
ensureDebianPackages([
  ...(needsDatabase ? ['postgresql'] : []),
  ...(needsBrowser ? ['chromium-headless-shell'] : []),
])
ensureNodeModules()
const data = ensureDataFolder()
const { startCluster } = await import('./lib/postgres.mjs')
const { testEnvironment } = await import('./test/environment.mjs')
const { runJest } = await import('./test/jest.mjs')
const { runInLanes } = await import('./test/lanes.mjs')
const { summarize } = await import('./test/summary.mjs')
const { readTimes, recordTimes } = await import('./test/times.mjs')

const recorded = readTimes()
const commands = []
let files = []
const cluster = needsDatabase
  ? await startCluster(join(data, 'test-postgres'), { durable: false })
  : undefined
try {
  await runInLanes(
    [...asked.checks, ...asked.foundations].map((name) => ({
      name,
      command: checks[name] ?? foundations[name],
      expected: recorded[name] ?? 60,
    })),
    {
      lanes,
      tell: (done) => {
        commands.push(done)
        console.log(
          `${`${done.seconds.toFixed(1)} s`.padStart(9)}  ${done.name}: ${done.ok ? 'passed' : 'failed'}`,
        )
        if (!done.ok) console.log(done.printed)
      },
    },
  )
  const standing = commands.every((c) => c.ok || !foundations[c.name])
  if (asked.files.length > 0 && standing) {
    const env = cluster ? testEnvironment(cluster) : {}
    const jest = await runJest(asked.files, { data, env, workers: lanes, also: asked.jest })
    files = jest.results
    // Jest can fail without a failed test: at its words, or when it could not end.
    const told = files.some((f) => f.broken || f.tests.some((t) => t.status === 'failed'))
    if (!jest.ok && !told) commands.push({ name: 'jest', ok: false, seconds: 0 })
  }
} finally {
  cluster?.stop()
}

const ran = [...commands, ...files]
if (asked.record) {
  const exists = new Set([...Object.keys({ ...checks, ...foundations }), ...testFiles().map(nameOf)])
  recordTimes(Object.fromEntries(ran.map(({ name, seconds }) => [name, seconds])), (name) => exists.has(name))
}
const well = summarize({ commands, files, recorded, wall: (Date.now() - started) / 1000 })
process.exit(well ? 0 : 1)
