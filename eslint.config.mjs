import boundaries from 'eslint-plugin-boundaries'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

// The floors of the house. Imports point downward only; a domain is entered through its index.
const own = ['domain', { domain: '${from.domain}' }]
const server = ['registry', 'front', 'domain', 'school', 'platform']
const below = {
  terminal: ['terminal', 'worker', 'web', 'demo', ...server, 'db', 'core', 'formats'],
  web: ['web', 'platform'],
  worker: ['worker', 'registry', 'front', 'school', 'platform', 'db', 'core'],
  app: ['app', 'screen', 'ui', 'registry', 'front', 'platform', 'formats', 'core'],
  screen: ['screen', 'ui', 'registry', 'platform', 'core'],
  proxy: [],
  ui: ['ui'],
  demo: ['demo', 'domain', 'platform', 'formats', 'db', 'core'],
  registry: ['registry', 'front', 'domain', 'platform', 'db'],
  front: ['front', 'registry', 'domain', 'school', 'platform', 'formats', 'db', 'core'],
  domain: [own, 'domain', 'school', 'platform', 'formats', 'db', 'core'],
  school: ['school', 'platform', 'db', 'core'],
  platform: ['platform', 'db', 'core'],
  formats: ['formats', 'core'],
  db: ['db', 'core'],
  core: ['core'],
}
const folders = ['terminal', 'worker', 'web', 'app', 'screen', 'ui', 'demo', 'formats', 'db', 'core']
const elements = [
  { type: 'proxy', mode: 'full', pattern: 'src/proxy.ts' },
  ...['platform', 'school', 'front'].map((type) => ({ type, mode: 'folder', pattern: `src/server/${type}` })),
  { type: 'registry', mode: 'full', pattern: 'src/server/*.ts' },
  { type: 'domain', mode: 'folder', pattern: 'src/server/*', capture: ['domain'] },
  ...folders.map((type) => ({ type, mode: 'folder', pattern: `src/${type}` })),
]

const union = { selector: 'TSEnumDeclaration', message: 'Use a union of texts.' }
/** What an input may hold at most stands in one list, which the database is compared with. */
const limits = [
  "CallExpression[callee.type='MemberExpression'][callee.object.name!='Math'][callee.property.name=/^(max|length)$/] > Literal[value>7].arguments",
  "CallExpression[callee.name='named'] > Literal[value>7].arguments",
].map((selector) => ({ selector, message: 'A limit stands in core/limits.ts.' }))

export default tseslint.config(
  { ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts'] },
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries, 'react-hooks': hooks },
    settings: {
      'boundaries/elements': elements,
      'boundaries/include': ['src/**/*.{ts,tsx}'],
      'boundaries/dependency-nodes': ['import', 'dynamic-import', 'export'],
      'import/resolver': { typescript: { alwaysTryTypes: true }, node: { extensions: ['.ts', '.tsx'] } },
    },
    rules: {
      'boundaries/no-unknown-files': 'error',
      'boundaries/no-unknown': 'error',
      'boundaries/element-types': [
        'error',
        {
          default: 'disallow',
          rules: Object.entries(below).map(([from, allow]) => ({ from, allow })),
        },
      ],
      'boundaries/entry-point': [
        'error',
        {
          default: 'disallow',
          rules: [
            { target: elements.map((e) => e.type).filter((t) => t !== 'domain'), allow: '**' },
            { target: 'domain', allow: 'index.ts' },
          ],
        },
      ],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      'no-restricted-syntax': ['error', union, ...limits],
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { patterns: [{ group: ['../*'], message: 'Write the path from the root: @/…' }] },
      ],
    },
  },
  {
    // A part that runs in the browser takes from the server only types.
    files: ['src/app/**/*.tsx', 'src/app/**/use-*.ts', 'src/screen/**/*.{ts,tsx}', 'src/ui/**/*.{ts,tsx}'],
    ignores: [
      'src/app/**/page.tsx',
      'src/app/**/layout.tsx',
      'src/screen/page-data.ts',
      'src/app/**/route.ts',
    ],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: [
            {
              name: 'next/navigation',
              importNames: ['useRouter'],
              message: 'Use useGo from @/screen/go: the router gives up the page when the server is away.',
            },
            { name: 'next/link', message: 'Use @/screen/link, which stays when the server is away.' },
          ],
          patterns: [
            {
              group: ['@/server/*', '@/db/*', '@/server/**', '@/db/**', '@/worker/**'],
              allowTypeImports: true,
              message: 'A client part takes types from the server, never code.',
            },
            { group: ['../*'], message: 'Write the path from the root: @/…' },
          ],
        },
      ],
    },
  },
  {
    // The core has no clock, no chance, no outside world and no environment.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    languageOptions: { globals: { URL: 'readonly' } },
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: [{ name: 'pg', message: 'The core knows no database.' }],
          patterns: [
            { group: ['node:*'], message: 'The core has no outside world.' },
            { group: ['../*'], message: 'Write the path from the root: @/…' },
          ],
        },
      ],
      'no-restricted-syntax': [
        'error',
        union,
        ...limits,
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'The core has no clock: take the date as an argument.',
        },
        {
          selector: "CallExpression[callee.name='Date']",
          message: 'The core has no clock: take the date as an argument.',
        },
        {
          selector: "MemberExpression[object.name='process'][property.name='env']",
          message: 'The core has no environment: take the value as an argument.',
        },
      ],
      // What the language itself has, and how addresses are read; no performance, crypto, fetch or process.
      'no-undef': 'error',
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock: take the date as an argument.' },
        {
          object: 'Math',
          property: 'random',
          message: 'The core has no chance: take a seed as an argument.',
        },
      ],
    },
  },
  {
    // A statement for each of many is how a page of the demo becomes slow at a large school. Whoever needs a loop says why.
    files: ['src/server/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-await-in-loop': 'error' },
  },
  {
    // A migration that has run is never edited, and neither is what it is made of.
    files: ['src/db/migrations/**/*.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [{ regex: '^(?!kysely$|node:)', message: 'A migration stands by itself: write it out.' }],
        },
      ],
    },
  },
  {
    // A list is a DataTable, which sorts, filters, prints and fits a phone. These are forms, grids and drawings.
    files: ['src/app/**/*.tsx', 'src/screen/**/*.tsx'],
    ignores: [
      'answers/answers-page',
      'question-table',
      'kept-marks',
      'register-table',
      'sheets-page',
      'settings-dialog',
      'levels-dialog',
      'check-page',
      'code-set-form',
      'timetable-grid',
      'sign-in/page',
    ].map((name) => `src/app/**/${name}.tsx`),
    rules: {
      'no-restricted-syntax': [
        'error',
        union,
        ...limits,
        { selector: "JSXOpeningElement[name.name='table']", message: 'A list is a DataTable.' },
      ],
    },
  },
  {
    files: ['tests/**/*.ts', '**/*.test.ts'],
    rules: { '@typescript-eslint/no-explicit-any': 'off', 'no-restricted-syntax': ['error', union] },
  },
  // The machine's own settings, which nobody at a school enters.
  { files: ['src/server/platform/config.ts'], rules: { 'no-restricted-syntax': ['error', union] } },
)
