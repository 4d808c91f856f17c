// npm run mutants [-- FILE…] [--most N]: changes one operator or literal at a time, in SQL too, and runs the nearest tests.
// What no test notices is listed. Without files: the core and what the platform writes, undoes and allows. It works in a
// copy, so that nothing here changes.
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { parseArgs } from 'node:util'
import { dataFolder, ensureNodeModules, root } from './lib/bootstrap.mjs'
import { copyProject, tryTests } from './lib/copy.mjs'

ensureNodeModules()
const { default: ts } = await import('typescript')
const { startCluster } = await import('./lib/postgres.mjs')
const { prepareTemplates } = await import('./lib/templates.mjs')
const { testEnvironment } = await import('./test/environment.mjs')
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
/** Files whose tests stand on the database: which of them are the nearest. */
const onDatabase = {
  'src/server/platform/write.ts': 'registers|two-people|marks|adding-a-domain',
  'src/server/platform/fields.ts': 'records|staff',
  'src/server/platform/undo.ts': 'structure|corrections|kept-marks|planned|rules|merge|groups|large-acts',
  'src/server/platform/rights.ts': 'rights|visibility|together',
}
const asked =
  positionals.length > 0
    ? positionals.map((path) => join(root, path))
    : [
        ...filesIn(join(root, 'src/core')).filter((path) => path.endsWith('.ts') && !isTest(path)),
        ...Object.keys(onDatabase).map((path) => join(root, path)),
      ]

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
const insteadInSql = new Map([
  ['=', '<>'],
  ['<', '<='],
  ['<=', '<'],
  ['>', '>='],
  ['>=', '>'],
  ['and', 'or'],
  ['exists', 'not exists'],
  ['is null', 'is not null'],
])
const otherNames = { some: 'every', every: 'some', min: 'max', max: 'min', ceil: 'floor', floor: 'ceil' }

/** The pieces of text of a template. */
const partsOf = (template) =>
  ts.isNoSubstitutionTemplateLiteral(template)
    ? [template]
    : [template.head, ...template.templateSpans.map((span) => span.literal)]

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
    else if (ts.isTaggedTemplateExpression(node) && node.tag.getText().startsWith('sql'))
      for (const part of partsOf(node.template))
        for (const found of part.getText().matchAll(/(?<= )(=|<=?|>=?|and|exists|is null)(?= |$)/g)) {
          const from = part.getStart() + found.index
          changes.push({ from, until: from + found[0].length, to: insteadInSql.get(found[0]) })
        }
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

const { folder: copy, remove } = copyProject('mutants')

const needsDatabase = asked.some((path) => Object.hasOwn(onDatabase, relative(root, path)))
const cluster = needsDatabase
  ? await startCluster(join(dataFolder, 'mutants-postgres'), { durable: false })
  : undefined
if (cluster) prepareTemplates(cluster)

/** Which tests of which project are the nearest to a file: those beside it, or in its folder. */
function nearest(path) {
  const name = relative(root, path)
  const onIt = onDatabase[name]
  if (onIt) return ['integration', `tests/integration/(${onIt})\\.test\\.ts$`]
  const own = name.replace(/\.ts$/, '.test.ts')
  const beside = existsSync(join(root, own)) && positionals.length > 0
  return ['unit', beside ? own : `${dirname(name)}/.*\\.test\\.ts$`]
}

/** Whether a test notices. */
function isNoticed(path) {
  const [project, pattern] = nearest(path)
  return !tryTests(copy, {
    project,
    pattern,
    env: cluster ? testEnvironment(cluster) : {},
    timeout: project === 'unit' ? 60_000 : 300_000,
  }).ok
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
await cluster?.stop()
remove()
console.log(`\n${tried - survivors.length} of ${tried} changes were noticed. Not noticed:`)
for (const line of survivors) console.log(`  ${line}`)
