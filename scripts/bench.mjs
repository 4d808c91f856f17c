// npm run bench: speed as ratios to a reference measured in the same run. Nothing here passes or fails on time.
// With words after it (npm run bench -- typing), only those parts: arithmetic, cards, pages, typing, scripts, alive, registry, breaths, floods, teachers, live, large.
// KEDGE_BENCH_MINUTES sets in how many minutes 300 teachers take their registers.
// KEDGE_BENCH_SCHOOLS sets how many schools the large size has (40 make 50,000 students and take ten minutes and more to load).
import { join } from 'node:path'
import { ensureEverything } from './lib/bootstrap.mjs'

const data = ensureEverything()
const asked = process.argv.slice(2)
const wants = (part) => asked.length === 0 || asked.includes(part)

const { openBrowser } = await import('./lib/chromium.mjs')
const { startCluster } = await import('./lib/postgres.mjs')
const { kedge } = await import('./lib/tools.mjs')
const { measureArithmetic, measureBreaths, measureCards, measureFindings, measureRegistry, measureScoring } =
  await import('./bench/core.mjs')
const { measurePages, openSize } = await import('./bench/pages.mjs')
const { measureTyping } = await import('./bench/typing.mjs')
const { measureFloods } = await import('./bench/floods.mjs')
const { measureTeachers } = await import('./bench/teachers.mjs')
const { measureLive } = await import('./bench/live.mjs')
const { measureScripts } = await import('./bench/scripts.mjs')
const { measureAlive } = await import('./bench/alive.mjs')
const { measureFirstPage } = await import('./bench/first-page.mjs')

if (wants('arithmetic')) measureArithmetic()
if (wants('scoring')) measureScoring()
const browser = await openBrowser()
// Half a machine's memory is what a school's database server would have.
const cluster = await startCluster(join(data, 'test-postgres'), { durable: false, memory: '2GB' })
try {
  if (wants('cards')) await measureCards(browser, join(data, 'bench-cards.html'))
  if (
    [
      'pages',
      'typing',
      'scripts',
      'alive',
      'registry',
      'breaths',
      'floods',
      'teachers',
      'live',
      'findings',
      'first-page',
    ].some(wants)
  ) {
    const demo = await openSize(cluster, 'demo')
    if (wants('pages')) await measurePages(cluster, demo)
    if (wants('typing')) await measureTyping(cluster, browser, demo, data)
    if (wants('scripts')) await measureScripts(browser, demo)
    if (wants('alive')) await measureAlive(browser, demo)
    if (wants('registry')) measureRegistry(demo)
    if (wants('breaths')) measureBreaths(demo)
    if (wants('findings')) measureFindings(demo)
    if (wants('first-page')) await measureFirstPage(browser, demo)
    if (wants('floods')) await measureFloods(demo)
    if (wants('teachers')) await measureTeachers(cluster, demo)
    if (wants('live')) await measureLive(cluster, demo)
    // Whatever was measured has left the school whole.
    console.log(`\n${kedge(['check'], demo.env)}`)
    await demo.app.stop()
  }
  if (wants('large')) {
    const large = await openSize(cluster, 'large')
    await measurePages(cluster, large)
    measureRegistry(large)
    measureFindings(large)
    await large.app.stop()
  }
} finally {
  await browser.close()
  cluster.stop()
}
