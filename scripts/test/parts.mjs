// The parts of npm test. Those that are commands run two at a time; Jest's follow, with both cores, in one run.
import { join } from 'node:path'
import { root } from '../lib/fingerprint.mjs'

const tool = (path, ...args) => [process.execPath, [join(root, 'node_modules', path), ...args]]
const own = (path) => [process.execPath, [join(root, 'scripts/test', path)]]

/** Each with its command, and the seconds it took when the times were recorded decide which begins first. */
export const checks = {
  lint: tool('eslint/bin/eslint.js', '.', '--max-warnings', '0'),
  types: tool('typescript/bin/tsc', '--noEmit'),
  knip: tool('knip/bin/knip.js'),
  format: tool('prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'),
}

/** What tests stand on; made only when what they are made from has changed. */
export const foundations = {
  build: own('make-build.mjs'),
  templates: own('make-templates.mjs'),
}

/** Jest's projects, with the foundations each stands on. */
export const projects = {
  unit: [],
  integration: ['templates'],
  browser: ['templates', 'build'],
}
