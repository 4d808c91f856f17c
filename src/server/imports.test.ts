import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import ts from 'typescript'

// What imports what: the rules that go through any number of files.

const root = join(process.cwd(), 'src')

function filesIn(folder: string): readonly string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return filesIn(path)
    return /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) ? [path] : []
  })
}

interface Import {
  readonly to: string
  /** Loaded when it is needed, and not with the file. */
  readonly isLater: boolean
  /** Types alone, which are gone when it runs. */
  readonly isType: boolean
}

const resolve = (from: string, name: string): string | undefined => {
  const base = name.startsWith('@/')
    ? join(root, name.slice(2))
    : name.startsWith('.')
      ? join(dirname(from), name)
      : undefined
  if (!base) return name
  return [base, `${base}.ts`, `${base}.tsx`, join(base, 'index.ts')].find(
    (path) => existsSync(path) && statSync(path).isFile(),
  )
}

/** The imports of a file, also those that it loads later. */
function importsOf(path: string): { readonly isClient: boolean; readonly imports: readonly Import[] } {
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, false)
  const imports: Import[] = []
  const add = (name: string, isType: boolean, isLater = false) => {
    const to = resolve(path, name)
    if (to) imports.push({ to, isType, isLater })
  }
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) && ts.isStringLiteral(node.moduleSpecifier)) {
      const clause = node.importClause
      const named = clause?.namedBindings
      const onlyTypes =
        clause !== undefined &&
        (clause.isTypeOnly ||
          (!clause.name &&
            named !== undefined &&
            ts.isNamedImports(named) &&
            named.elements.every((e) => e.isTypeOnly)))
      add(node.moduleSpecifier.text, onlyTypes)
    } else if (
      ts.isExportDeclaration(node) &&
      node.moduleSpecifier &&
      ts.isStringLiteral(node.moduleSpecifier)
    )
      add(node.moduleSpecifier.text, node.isTypeOnly)
    else if (
      ts.isCallExpression(node) &&
      node.expression.kind === ts.SyntaxKind.ImportKeyword &&
      node.arguments[0] &&
      ts.isStringLiteral(node.arguments[0])
    )
      add(node.arguments[0].text, false, true)
    ts.forEachChild(node, visit)
  }
  visit(source)
  const [first] = source.statements
  const isClient =
    first !== undefined &&
    ts.isExpressionStatement(first) &&
    ts.isStringLiteral(first.expression) &&
    first.expression.text === 'use client'
  return { isClient, imports }
}

const files = new Map(filesIn(root).map((path) => [path, importsOf(path)]))
const short = (path: string) => relative(root, path)

/**
 * The way from a file to the first one that is meant, through what runs; undefined where there is none.
 * @param options.atOnce not through what is loaded only when it is needed
 */
function wayTo(
  from: string,
  isMeant: (to: string) => boolean,
  { atOnce = false } = {},
): readonly string[] | undefined {
  const seen = new Set([from])
  const queue: (readonly string[])[] = [[from]]
  for (let way = queue.shift(); way; way = queue.shift()) {
    for (const { to, isType, isLater } of files.get(way.at(-1) ?? '')?.imports ?? []) {
      if (isType || (atOnce && isLater) || seen.has(to)) continue
      seen.add(to)
      if (isMeant(to)) return [...way, to]
      if (files.has(to)) queue.push([...way, to])
    }
  }
  return undefined
}

test('nothing of the server reaches the browser, through whatever file', () => {
  const ofServer = ['server', 'db', 'worker', 'terminal', 'demo'].map((folder) => join(root, folder) + '/')
  const isServer = (to: string) =>
    ofServer.some((folder) => to.startsWith(folder)) ||
    to.startsWith('node:') ||
    to === 'pg' ||
    to === 'kysely'
  const ways = [...files]
    .filter(([, { isClient }]) => isClient)
    .flatMap(([path]) => {
      const way = wayTo(path, isServer)
      return way ? [way.map(short).join(' → ')] : []
    })
  expect(ways).toEqual([])
})

test('what a page loads before it can be used does not hold the schemas: they come with the first form', () => {
  const isServed = (path: string) => /\/(page|layout)\.tsx$/.test(path)
  // What the server draws with is not sent; what is sent begins at the client's own files.
  const sent = [...files].flatMap(([path, { imports }]) =>
    isServed(path) ? imports.flatMap(({ to }) => (files.get(to)?.isClient ? [to] : [])) : [],
  )
  const ways = [...new Set(sent)].flatMap((path) => {
    const way = wayTo(path, (to) => to === 'zod', { atOnce: true })
    return way ? [way.map(short).join(' → ')] : []
  })
  expect(ways).toEqual([])
})

test('no file is imported by what it imports, types included', () => {
  const circles = new Set<string>()
  const state = new Map<string, 'open' | 'done'>()
  const walk = (path: string, way: readonly string[]): void => {
    state.set(path, 'open')
    for (const { to } of files.get(path)?.imports ?? []) {
      if (!files.has(to)) continue
      if (state.get(to) === 'open') circles.add([...way.slice(way.indexOf(to)), to].map(short).join(' → '))
      else if (!state.has(to)) walk(to, [...way, to])
    }
    state.set(path, 'done')
  }
  for (const path of files.keys()) if (!state.has(path)) walk(path, [path])
  expect([...circles]).toEqual([])
})

test('pages and addresses use those parts of the platform that are meant for them', () => {
  const meant = new Set(
    `actor browser-words catalog client-address clock config confirmed-address database database-errors define failure feed
    files http invitation live log new-password file-response run session readiness session-limits sign-in stopping stream-limits topic turns
    password-rule device-key inspecting preview unstorable`
      .split(/\s+/)
      .map((name) => join(root, 'server/platform', `${name}.ts`)),
  )
  const others = [...files]
    .filter(
      ([path]) => path.startsWith(join(root, 'app') + '/') || path.startsWith(join(root, 'screen') + '/'),
    )
    .flatMap(([path, { imports }]) =>
      imports
        .filter(({ to }) => to.startsWith(join(root, 'server/platform')) && !meant.has(to))
        .map(({ to }) => `${short(path)} imports ${short(to)}`),
    )
  expect(others).toEqual([])
})

test('what the scripts import of each other is there', () => {
  const scripts = join(process.cwd(), 'scripts')
  const modules = (folder: string): readonly string[] =>
    readdirSync(folder).flatMap((name) => {
      const path = join(folder, name)
      return statSync(path).isDirectory() ? modules(path) : path.endsWith('.mjs') ? [path] : []
    })
  const missing = modules(scripts).flatMap((path) =>
    [
      ...readFileSync(path, 'utf8').matchAll(
        /\{([^}]*)\} = await import\('(\.[^']+)'\)|import \{([^}]*)\} from '(\.[^']+)'/g,
      ),
    ].flatMap(([, later, laterFrom, names = later ?? '', from = laterFrom ?? '']) => {
      const there = readFileSync(join(dirname(path), from), 'utf8')
      return names
        .split(',')
        .map(
          (name) =>
            name
              .trim()
              .split(/ as |:/)[0]
              ?.trim() ?? '',
        )
        .filter(
          (name) =>
            name &&
            !new RegExp(`export (?:(?:async )?(?:function\\*?|const|class|let) |\\{[^}]*\\b)${name}\\b`).test(
              there,
            ),
        )
        .map((name) => `${relative(scripts, path)}: ${name} of ${from}`)
    }),
  )
  expect(missing).toEqual([])
})
