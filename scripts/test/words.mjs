// Reads the words after npm test: parts, names of test files, and after another -- what Jest is to be told.
import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../lib/fingerprint.mjs'
import { checks, foundations, projects } from './parts.mjs'

const projectOf = (file) => /^tests\/(integration|browser)\//.exec(file)?.[1] ?? 'unit'

/** Every test file there is, from the project's root. */
export function testFiles() {
  return ['src', 'tests'].flatMap((folder) =>
    readdirSync(join(root, folder), { recursive: true })
      .filter((name) => /\.test\.tsx?$/.test(name))
      .map((name) => join(folder, name)),
  )
}

/** The name by which a test file is asked for: browser/editing, core/marks/scale. */
export const nameOf = (file) => file.replace(/^(src|tests)\//, '').replace(/\.test\.tsx?$/, '')

/**
 * What is to run.
 * @param {readonly string[]} words as typed after npm test --
 * @returns {{ checks: string[], foundations: string[], files: string[], jest: string[], record: boolean, all: boolean }}
 * @throws Error that names a word which is neither a part nor part of a test file's name
 */
export function readWords(words) {
  const cut = words.indexOf('--')
  const named = cut < 0 ? words : words.slice(0, cut)
  const record = named.includes('record')
  const asked = named.filter((word) => word !== 'record')
  const all = asked.length === 0
  const commands = { ...checks, ...foundations }
  const isAsked = (word, file) =>
    projects[word] ? projectOf(file) === word : !commands[word] && nameOf(file).includes(word)
  const files = testFiles().filter((file) => all || asked.some((word) => isAsked(word, file)))
  const known = { ...commands, ...projects }
  for (const word of asked)
    if (!known[word] && !files.some((file) => nameOf(file).includes(word)))
      throw new Error(`No part and no test file is called ${word}. Parts: ${Object.keys(known).join(', ')}.`)
  const needed = new Set(files.flatMap((file) => projects[projectOf(file)]))
  return {
    checks: Object.keys(checks).filter((name) => all || asked.includes(name)),
    foundations: Object.keys(foundations).filter((name) => asked.includes(name) || needed.has(name)),
    files,
    jest: cut < 0 ? [] : words.slice(cut + 1),
    record,
    all,
  }
}
