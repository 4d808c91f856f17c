// What npm test says at its end.

const minutes = (seconds) => `${(seconds / 60).toFixed(1)} min`
const line = (seconds, text) => `${seconds.toFixed(1).padStart(8)} s  ${text}`

/** The seconds of each part: those that are commands by the clock, Jest's by adding up their files. */
function parts(commands, files) {
  const of = new Map(commands.map(({ name, seconds }) => [name, seconds]))
  for (const { name, seconds } of files) {
    const project = /^(integration|browser)\//.exec(name)?.[1] ?? 'unit'
    of.set(project, (of.get(project) ?? 0) + seconds)
  }
  return [...of]
}

/** How much longer than recorded everything took that was recorded. */
function comparedWithRecorded(ran, recorded) {
  const both = ran.filter(({ name }) => recorded[name] > 0)
  const then = both.reduce((sum, { name }) => sum + recorded[name], 0)
  const now = both.reduce((sum, { seconds }) => sum + seconds, 0)
  if (then === 0) return 'No times are recorded for what ran; npm test -- record keeps them.'
  return `This machine took ${(now / then).toFixed(2)} times the recorded time (${minutes(now)} of work; ${minutes(then)} recorded).`
}

const plural = (n, word) => `${n} ${word}${n === 1 ? '' : 's'}`

/** One sentence: what passed, what failed, and how to run one of the failed alone. */
function sentence(commands, files, tests) {
  const wrong = commands.filter((c) => !c.ok).map((c) => c.name)
  const broken = files.filter((f) => f.broken || f.tests.some((t) => t.status === 'failed'))
  const failed = tests.filter((t) => t.status === 'failed').length
  const did = [...commands.map((c) => c.name), ...(tests.length > 0 ? [plural(tests.length, 'test')] : [])]
  if (wrong.length + broken.length === 0) return `Everything passed: ${did.join(', ')}.`
  const what = [
    ...wrong,
    ...(failed > 0 ? [plural(failed, 'test')] : []),
    ...broken.filter((f) => f.broken).map((f) => f.name),
  ]
  const first = broken[0]
  const test = first?.tests.find((t) => t.status === 'failed')
  const alone = first
    ? `npm test -- ${first.name}${test ? ` -- -t ${JSON.stringify(test.title.slice(0, 60))}` : ''}`
    : `npm test -- ${wrong[0]}`
  const passed = tests.length - failed
  return `Failed: ${what.join(', ')}; passed: ${[...commands.filter((c) => c.ok).map((c) => c.name), plural(passed, 'test')].join(', ')}. Run one alone: ${alone}`
}

/**
 * Prints it all.
 * @param {object} run
 * @param {readonly { name: string, ok: boolean, seconds: number }[]} run.commands
 * @param {readonly object[]} run.files what the reporter kept
 * @param {Readonly<Record<string, number>>} run.recorded
 * @param {number} run.wall seconds from start to end
 * @returns whether all is well
 */
export function summarize({ commands, files, recorded, wall }) {
  const tests = files.flatMap((file) => file.tests.map((test) => ({ ...test, file: file.name })))
  console.log('\nParts (two run at a time)')
  for (const [name, seconds] of parts(commands, files)) console.log(line(seconds, name))
  console.log('\nTen slowest tests')
  const slowest = [...tests].sort((a, b) => b.seconds - a.seconds).slice(0, 10)
  for (const { seconds, file, name } of slowest) console.log(line(seconds, `${file}: ${name}`))
  const assertions = tests.reduce((sum, t) => sum + t.assertions, 0)
  console.log(`\n${minutes(wall)} by the clock. ${assertions} assertions held.`)
  console.log(comparedWithRecorded([...commands, ...files], recorded))
  const failed = tests.filter((t) => t.status === 'failed').length + files.filter((f) => f.broken).length
  if (files.length > 0)
    console.log(`${tests.filter((t) => t.status === 'passed').length} passed, ${failed} failed`)
  console.log(sentence(commands, files, tests))
  return failed === 0 && commands.every((c) => c.ok)
}
