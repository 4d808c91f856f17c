// npm run planted [-- --walks N] [WORD…]: puts defects back that Kedge once had, one at a time, and lets the random walk look for
// them. It works in a copy, so that nothing here changes.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { dataFolder, ensureNodeModules } from './lib/bootstrap.mjs'
import { copyProject, tryTests } from './lib/copy.mjs'
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
  const { ok, said } = tryTests(folder, {
    project: 'integration',
    pattern: 'tests/integration/random-walk',
    env: { ...testEnvironment(cluster), KEDGE_WALKS: values.walks },
  })
  if (ok) return undefined
  const [, walk, what] = /walk (\d+): ([^\n]*)/.exec(said) ?? []
  if (walk) return { walk, what: what.slice(0, 110) }
  if (/^Tests: .* failed/m.test(said))
    return { walk: '–', what: 'a record is not as its history has kept it' }
  throw new Error(`the walk could not be tried:\n${said.slice(-2000)}`)
}

const anyway = firstFound()
if (anyway) throw new Error(`walk ${anyway.walk} finds something with nothing planted: ${anyway.what}`)
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
