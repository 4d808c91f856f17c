// npm run mutants [-- FILE…] [--most N]: changes one operator or literal at a time and runs the nearest tests. What no test
// notices is listed. Without files: the core. It works in a copy, so that nothing here changes.
import { spawnSync } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { parseArgs } from 'node:util'
import { dataFolder, ensureNodeModules, root } from './lib/bootstrap.mjs'

ensureNodeModules()
const { default: ts } = await import('typescript')
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { most: { type: 'string', default: '12' }, seed: { type: 'string', default: '1' } },
})
const most = Number(values.most)

const filesIn = (folder) =>
  readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? filesIn(path) : [path]
  })
const isTest = (path) => path.endsWith('.test.ts')
const asked =
  positionals.length > 0
    ? positionals.map((path) => join(root, path))
    : filesIn(join(root, 'src/core')).filter((path) => path.endsWith('.ts') && !isTest(path))

const K = ts.SyntaxKind
const instead = new Map([
  [K.LessThanToken, '<='],
  [K.LessThanEqualsToken, '<'],
  [K.GreaterThanToken, '>='],
  [K.GreaterThanEqualsToken, '>'],
  [K.EqualsEqualsEqualsToken, '!=='],
  [K.ExclamationEqualsEqualsToken, '==='],
  [K.PlusToken, '-'],
  [K.MinusToken, '+'],
  [K.AsteriskToken, '/'],
  [K.SlashToken, '*'],
  [K.AmpersandAmpersandToken, '||'],
  [K.BarBarToken, '&&'],
])
const otherNames = { some: 'every', every: 'some', min: 'max', max: 'min', ceil: 'floor', floor: 'ceil' }

/** Every small change of a file: from where to where, and what stands there instead. */
function changesOf(path) {
  const text = readFileSync(path, 'utf8')
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true)
  const changes = []
  const add = (node, to) => changes.push({ from: node.getStart(), until: node.end, to })
  const visit = (node) => {
    // What types and imports say is gone when it runs.
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isInterfaceDeclaration(node)) return
    if (ts.isBinaryExpression(node) && instead.has(node.operatorToken.kind))
      add(node.operatorToken, instead.get(node.operatorToken.kind))
    else if (ts.isNumericLiteral(node)) add(node, String(Number(node.text) + 1))
    else if (node.kind === K.TrueKeyword) add(node, 'false')
    else if (node.kind === K.FalseKeyword) add(node, 'true')
    else if (ts.isPropertyAccessExpression(node) && Object.hasOwn(otherNames, node.name.text))
      add(node.name, otherNames[node.name.text])
    else if (ts.isPrefixUnaryExpression(node) && node.operator === K.ExclamationToken)
      add(node, node.operand.getText())
    ts.forEachChild(node, visit)
  }
  visit(source)
  return changes.map((change) => ({
    ...change,
    text,
    line: source.getLineAndCharacterOfPosition(change.from).line + 1,
  }))
}

/** Some of them, the same for the same seed. */
function some(all, seed) {
  let state = seed
  const next = () => (state = (state * 1103515245 + 12345) % 2147483648)
  return all
    .map((one) => [next(), one])
    .sort(([a], [b]) => a - b)
    .slice(0, most)
    .map(([, one]) => one)
    .sort((a, b) => a.from - b.from)
}

const copy = join(dataFolder, 'mutants')
rmSync(copy, { recursive: true, force: true })
mkdirSync(copy, { recursive: true })
for (const name of ['src', 'tests', 'scripts', 'docs', 'jest.config.mjs', 'package.json', 'tsconfig.json'])
  if (existsSync(join(root, name))) cpSync(join(root, name), join(copy, name), { recursive: true })
symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'))

/** Whether the tests beside a file, or in its folder, notice. */
function isNoticed(path) {
  const folder = relative(root, dirname(path))
  const own = relative(root, path).replace(/\.ts$/, '.test.ts')
  const pattern = existsSync(join(root, own)) && positionals.length > 0 ? own : `${folder}/.*\\.test\\.ts$`
  const { status } = spawnSync(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/jest/bin/jest.js',
      '--selectProjects=unit',
      `--testPathPatterns=${pattern}`,
      '--bail',
      '--silent',
    ],
    { cwd: copy, timeout: 60_000, stdio: 'ignore' },
  )
  return status !== 0
}

let tried = 0
const survivors = []
for (const path of asked) {
  const changes = some(changesOf(path), Number(values.seed))
  if (changes.length === 0) continue
  const target = join(copy, relative(root, path))
  for (const { text, from, until, to, line } of changes) {
    writeFileSync(target, text.slice(0, from) + to + text.slice(until))
    tried++
    if (!isNoticed(path))
      survivors.push(
        `${relative(root, path)}:${line}  ${text.slice(from, until)} → ${to}    ${text.split('\n')[line - 1].trim().slice(0, 100)}`,
      )
    writeFileSync(target, text)
  }
  console.log(`${relative(root, path)}: ${changes.length} changed`)
}
rmSync(copy, { recursive: true, force: true })
console.log(`\n${tried - survivors.length} of ${tried} changes were noticed. Not noticed:`)
for (const line of survivors) console.log(`  ${line}`)
