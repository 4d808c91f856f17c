// What npm test says of Jest's files while they run, and what it keeps of them for the summary.
import { existsSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { root } from '../lib/fingerprint.mjs'
import { nameOf } from './words.mjs'

const seconds = (milliseconds) => `${(milliseconds / 1000).toFixed(1)} s`.padStart(9)

/** At most so many lines are printed of what failed in one file. */
const mostLines = 150

/** A message, with the same complaint said once, and cut where it is longer than anybody reads. */
function shortened(message) {
  const said = [...new Set(message.split(/\n(?=\s*●)/))].join('\n').split('\n')
  if (said.length <= mostLines) return said.join('\n')
  return [...said.slice(0, mostLines), `  … and ${said.length - mostLines} lines more`].join('\n')
}

/** What was written while a test file ran, where anything was. */
function logsOf(name) {
  const folder = join(process.env.KEDGE_TEST_LOGS, name)
  if (!existsSync(folder)) return []
  return readdirSync(folder, { recursive: true })
    .map((log) => join(folder, log))
    .filter((log) => statSync(log).isFile() && statSync(log).size > 0)
}

export default class Reporter {
  #results = []

  onTestResult({ path }, result) {
    const name = nameOf(relative(root, path))
    const tests = result.testResults.map((test) => ({
      name: [...test.ancestorTitles, test.title].join(', '),
      title: test.title,
      status: test.status,
      seconds: (test.duration ?? 0) / 1000,
      assertions: test.numPassingAsserts,
    }))
    const ran = tests.filter((test) => test.status === 'passed' || test.status === 'failed')
    const failed = tests.filter((test) => test.status === 'failed')
    const broken = Boolean(result.testExecError)
    if (ran.length === 0 && !broken) return
    this.#results.push({ name, seconds: result.perfStats.runtime / 1000, broken, tests: ran })
    const of = broken
      ? 'could not run'
      : failed.length > 0
        ? `${failed.length} of ${ran.length} failed`
        : `${ran.length} passed`
    console.log(`${seconds(result.perfStats.runtime)}  ${name}: ${of}`)
    if (!broken && failed.length === 0) return
    console.log(shortened(result.failureMessage ?? ''))
    for (const { message, origin } of result.console ?? []) console.log(`${message}\n${origin}`)
    for (const log of logsOf(name)) console.log(`  Log of the application: ${log}`)
  }

  onRunComplete() {
    writeFileSync(process.env.KEDGE_TEST_RESULTS, JSON.stringify(this.#results))
    // What a failed start left open must not hold up the whole run.
    setTimeout(() => process.exit(), 3000).unref()
  }

  getLastError() {}
}
