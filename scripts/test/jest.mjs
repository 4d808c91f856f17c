// Runs test files of all projects in one run of Jest, with both cores.
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../lib/fingerprint.mjs'
import { start } from '../lib/run.mjs'

/**
 * @param {readonly string[]} files from the project's root
 * @param {object} options
 * @param {string} options.data where logs and results go
 * @param {readonly string[]} options.also more words for Jest
 * @returns {Promise<{ ok: boolean, results: readonly { name: string, seconds: number, broken: boolean,
 *   tests: readonly { name: string, status: string, seconds: number, assertions: number }[] }[] }>}
 */
export async function runJest(files, { data, env, workers, also }) {
  const results = join(data, 'test-results.json')
  const logs = join(data, 'test-logs')
  rmSync(results, { force: true })
  rmSync(logs, { recursive: true, force: true })
  const child = start(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      join(root, 'node_modules/jest/bin/jest.js'),
      '--reporters',
      join(root, 'scripts/test/reporter.mjs'),
      '--testSequencer',
      join(root, 'scripts/test/sequencer.mjs'),
      '--maxWorkers',
      String(workers),
      '--runTestsByPath',
      ...files,
      ...also,
    ],
    {
      cwd: root,
      env: { ...process.env, ...env, KEDGE_TEST_LOGS: logs, KEDGE_TEST_RESULTS: results },
      stdio: ['ignore', 'inherit', 'inherit'],
      // A group of its own, so that browsers and servers that its workers started end with it.
      detached: true,
    },
  )
  const code = await new Promise((resolve) => child.once('close', resolve))
  return {
    ok: code === 0,
    results: existsSync(results) ? JSON.parse(readFileSync(results, 'utf8')) : [],
  }
}
