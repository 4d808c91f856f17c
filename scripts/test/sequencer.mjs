// The order of test files for Jest: unit tests, then the longest by recorded times, so that both workers end together.
import Sequencer from '@jest/test-sequencer'
import { relative } from 'node:path'
import { root } from '../lib/fingerprint.mjs'
import { readTimes } from './times.mjs'
import { nameOf } from './words.mjs'

export default class LongestFirst extends (Sequencer.default ?? Sequencer) {
  sort(tests) {
    const times = readTimes()
    // A file that was never measured may be long: it begins early.
    const seconds = ({ path }) => times[nameOf(relative(root, path))] ?? 60
    // Unit tests come first: once a database or a browser was used in a process, promises take several times as long.
    const isUnit = ({ path }) => (relative(root, path).startsWith('src/') ? 0 : 1)
    return [...tests].sort((a, b) => isUnit(a) - isUnit(b) || seconds(b) - seconds(a))
  }
}
