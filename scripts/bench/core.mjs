// What runs without a server: the arithmetic of marks, the scoring of answers, and report cards as PDF.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { root } from '../lib/bootstrap.mjs'
import { at, ms, row } from './table.mjs'

const typescript = (file, args = [], env = process.env) =>
  spawnSync(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', join(root, 'scripts/bench', file), ...args],
    { cwd: root, env, encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'], maxBuffer: 1 << 26 },
  ).stdout

/** Term marks of a class against plain exact fractions. */
export function measureArithmetic() {
  console.log(typescript('arithmetic.ts'))
}

/** Answer sheets of all kinds of questions, scored and read. */
export function measureScoring() {
  console.log(typescript('scoring.ts'))
}

/** 620 cards in one PDF against headless Chromium printing the same contents. */
export async function measureCards(browser, page) {
  const own = JSON.parse(typescript('cards.ts', [page]))
  const tab = await browser.newPage()
  const from = performance.now()
  await tab.goto(`file://${page}`)
  await tab.pdf({ format: 'A4', tagged: true, timeout: 0 })
  const reference = performance.now() - from
  await tab.close()
  console.log('620 report cards in one PDF')
  row('Kedge', ms(own.milliseconds), `${own.pages} pages`, `${(own.bytes / 1048576).toFixed(1)} MiB`)
  row('headless Chromium, same contents', ms(reference))
  row('Kedge / Chromium', (own.milliseconds / reference).toFixed(3))
  row('heap after each tenth, MiB', own.heap.join(' '))
}

/** Searching while typing, and carrying all classes of a school forward, inside the server, against the bare SQL. */
export function measureRegistry({ school, env, size }) {
  const measured = JSON.parse(typescript('registry.ts', [school, 'm.vester'], env))
  const { search, bareSearch, carried, bareCarry, figures, bareFigures } = measured
  console.log(`\nInside the server, size ${size}`)
  row('', 'median', '95 %', 'bare SQL', 'ratio', 'statements')
  const ratio = (own, bare) => (at(own, 0.5) / at(bare, 0.5)).toFixed(1)
  row(
    'find, each key',
    ms(at(search, 0.5)),
    ms(at(search, 0.95)),
    ms(at(bareSearch, 0.5)),
    ratio(search, bareSearch),
    '',
  )
  row(
    `figures of a year, ${measured.marks} marks`,
    ms(at(figures, 0.5)),
    ms(at(figures, 0.95)),
    ms(at(bareFigures, 0.5)),
    ratio(figures, bareFigures),
    '',
  )
  row(
    `carry ${measured.classes} classes, previewed`,
    ms(at(carried, 0.5)),
    ms(at(carried, 0.95)),
    ms(at(bareCarry, 0.5)),
    ratio(carried, bareCarry),
    measured.statements,
  )
}

/** Findings of everybody at a school inside the server, against the bare rows of their answers. */
export function measureFindings({ school, env, size }) {
  const { students, own, bare, statements } = JSON.parse(typescript('findings.ts', [school, 'm.vester'], env))
  console.log(`\nFindings of ${students} students × 40 questions, size ${size}`)
  row('', 'median', '95 %', 'bare SQL', 'ratio', 'statements')
  row(
    'findings',
    ms(at(own, 0.5)),
    ms(at(own, 0.95)),
    ms(at(bare, 0.5)),
    (at(own, 0.5) / at(bare, 0.5)).toFixed(1),
    statements,
  )
}

/** Prints how long the heaviest entries hold the main thread in one breath: nobody else is answered meanwhile. */
export function measureBreaths({ school, env, size, day }) {
  console.log(`\nThe main thread, held in one breath, size ${size}`)
  row('', 'whole', 'longest breath')
  for (const { name, took, longest } of JSON.parse(typescript('breaths.ts', [school, 'm.vester', day], env)))
    row(name, ms(took), ms(longest))
}
