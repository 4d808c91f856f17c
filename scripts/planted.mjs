// npm run planted [-- --walks N] [WORD…]: puts defects back that Kedge once had, one at a time, and lets the random walk look for
// them. It works in a copy, so that nothing here changes.
import { spawnSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { dataFolder, ensureNodeModules } from './lib/bootstrap.mjs'
import { copyProject } from './lib/copy.mjs'
import { defects } from './planted-defects.mjs'

ensureNodeModules()
const { startCluster } = await import('./lib/postgres.mjs')
const { prepareTemplates } = await import('./lib/templates.mjs')
const { testEnvironment } = await import('./test/environment.mjs')
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { walks: { type: 'string', default: '600' } },
})
const asked = defects.filter(
  ({ words }) => positionals.length === 0 || positionals.some((word) => words.includes(word)),
)

const { folder, remove } = copyProject('planted')
const cluster = await startCluster(join(dataFolder, 'planted-postgres'), { durable: false })
prepareTemplates(cluster)

/** The number of the walk that finds something, and what; undefined when none does. */
function firstFound() {
  const { stdout, stderr } = spawnSync(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/jest/bin/jest.js',
      '--selectProjects=integration',
      '--testPathPatterns=tests/integration/random-walk',
      '--bail',
      '--maxWorkers=1',
      '--forceExit',
    ],
    {
      cwd: folder,
      encoding: 'utf8',
      maxBuffer: 1 << 28,
      env: { ...process.env, ...testEnvironment(cluster), KEDGE_WALKS: values.walks },
    },
  )
  const [, walk, what] = /walk (\d+): ([^\n]*)/.exec(stdout + stderr) ?? []
  if (walk) return { walk, what: what.slice(0, 110) }
  if (/^Tests: .* failed/m.test(stdout + stderr))
    return { walk: '–', what: (/● [^\n]*\n+([^\n]*)/.exec(stdout + stderr)?.[1] ?? '').trim().slice(0, 110) }
  return undefined
}

let found = 0
for (const { words, changes } of asked) {
  const before = new Map()
  for (const [file, from, to] of changes) {
    const path = join(folder, file)
    const text = readFileSync(path, 'utf8')
    if (!before.has(path)) before.set(path, text)
    if (!text.includes(from)) throw new Error(`${file} has changed: ${words} cannot be planted`)
    writeFileSync(
      path,
      text.replace(from, () => to),
    )
  }
  const answer = firstFound()
  if (answer) found++
  console.log(answer ? `found by walk ${answer.walk}: ${words}\n    ${answer.what}` : `NOT FOUND: ${words}`)
  for (const [path, text] of before) writeFileSync(path, text)
}
await cluster.stop()
remove()
console.log(`\n${found} of ${asked.length} planted defects were found in ${values.walks} walks each.`)
if (found < asked.length) process.exitCode = 1
