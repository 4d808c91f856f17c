// npm test: everything that must be true, on a fresh machine, in one go.
// With words after it (npm test -- unit), only those parts: lint, types, knip, format, unit, integration, browser,
// or of the browser's tests one: journey, views, screens, editing, school, records, attendance, lessons, http. After another -- come words for Jest: -- -t 'a name'.
import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import {
  ensureBuild,
  ensureDataFolder,
  ensureDebianPackages,
  ensureNodeModules,
  root,
} from './lib/bootstrap.mjs'

const words = process.argv.slice(2)
const [asked, forJest] = words.includes('--')
  ? [words.slice(0, words.indexOf('--')), words.slice(words.indexOf('--') + 1)]
  : [words, []]
const wants = (part) => asked.length === 0 || asked.includes(part)
const journeys = [
  'journey',
  'views',
  'screens',
  'editing',
  'school',
  'records',
  'attendance',
  'lessons',
  'http',
].filter((name) => asked.includes(name))
const needsBrowser = wants('browser') || journeys.length > 0
const needsDatabase = wants('integration') || needsBrowser

ensureDebianPackages([...(needsDatabase ? ['postgresql'] : []), ...(needsBrowser ? ['chromium'] : [])])
ensureNodeModules()
const data = ensureDataFolder()
const { run } = await import('./lib/run.mjs')
const { startCluster } = await import('./lib/postgres.mjs')
const { environment } = await import('./lib/application.mjs')
const { prepareTemplates } = await import('./lib/templates.mjs')

const counts = { passed: 0, failed: 0 }
const failedParts = []
const started = Date.now()

function part(name, work) {
  const from = Date.now()
  console.log(`\n— ${name}`)
  try {
    work()
  } catch (error) {
    failedParts.push(name)
    console.error(error.message)
  }
  console.log(`  ${name}: ${((Date.now() - from) / 1000).toFixed(0)} s`)
}

function jest(project, env, workers, only = []) {
  const report = join(data, `jest-${project}.json`)
  rmSync(report, { force: true })
  try {
    run(
      process.execPath,
      [
        '--experimental-vm-modules',
        '--no-warnings',
        join(root, 'node_modules/jest/bin/jest.js'),
        '--selectProjects',
        project,
        '--maxWorkers',
        String(workers),
        // What a failed start left open must not hold up the whole run.
        ...(project === 'browser' ? ['--forceExit'] : []),
        '--json',
        '--outputFile',
        report,
        ...only,
        ...forJest,
      ],
      {
        cwd: root,
        env: { ...process.env, ...env },
        stdio: ['ignore', 'ignore', 'inherit'],
      },
    )
  } finally {
    const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(
      readFileSync(report, 'utf8'),
    )
    counts.passed += numPassedTests
    counts.failed += numFailedTests + numRuntimeErrorTestSuites
  }
}

if (wants('lint')) part('lint', () => run('npx', ['eslint', '.', '--max-warnings', '0'], { cwd: root }))
if (wants('types')) part('types', () => run('npx', ['tsc', '--noEmit'], { cwd: root }))
if (wants('knip')) part('knip', () => run('npx', ['knip'], { cwd: root }))
if (wants('format'))
  part('format', () => run('npx', ['prettier', '--check', '--log-level', 'warn', '.'], { cwd: root }))
if (wants('unit')) part('unit', () => jest('unit', {}, 2))

let cluster
try {
  if (needsDatabase) {
    cluster = await startCluster(join(data, 'test-postgres'), { durable: false })
    part('templates', () => prepareTemplates(cluster))
    const urls = (role) => cluster.url(role, '{database}')
    const env = {
      ...environment(cluster, 'kedge_none'),
      KEDGE_TEST_DATABASES: JSON.stringify({
        superuser: urls('postgres'),
        owner: urls('kedge_owner'),
        app: urls('kedge_app'),
      }),
      KEDGE_NOW: '2026-11-23T09:05:00',
      LOG_LEVEL: 'error',
      NODE_ENV: 'test',
    }
    if (wants('integration')) part('integration', () => jest('integration', env, 2))
    if (needsBrowser)
      part('browser', () => {
        ensureBuild()
        jest('browser', env, 1, journeys)
      })
  }
} finally {
  cluster?.stop()
}

console.log(`\n${((Date.now() - started) / 60000).toFixed(1)} minutes`)
if (failedParts.length > 0) console.log(`Failed: ${failedParts.join(', ')}`)
if (counts.passed + counts.failed > 0) console.log(`${counts.passed} passed, ${counts.failed} failed`)
process.exit(failedParts.length > 0 || counts.failed > 0 ? 1 : 0)
