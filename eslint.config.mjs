import boundaries from 'eslint-plugin-boundaries'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

// The floors of the house. Imports point downward only; client parts take types from the server, never code.
const floors = ['terminal', 'app', 'proxy', 'ui', 'server', 'demo', 'formats', 'db', 'core']
const below = {
  terminal: ['terminal', 'server', 'demo', 'db', 'core', 'formats'],
  app: ['app', 'ui', 'server', 'formats', 'core'],
  proxy: [],
  ui: ['ui'],
  server: ['server', 'formats', 'db', 'core'],
  demo: ['demo', 'server', 'formats', 'db', 'core'],
  formats: ['formats', 'core'],
  db: ['db', 'core'],
  core: ['core'],
}

export default tseslint.config(
  { ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts'] },
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries, 'react-hooks': hooks },
    settings: {
      'boundaries/elements': floors.map((type) => ({
        type,
        mode: 'full',
        pattern: type === 'proxy' ? 'src/proxy.ts' : `src/${type}/**/*`,
      })),
      'import/resolver': { typescript: { alwaysTryTypes: true }, node: { extensions: ['.ts', '.tsx'] } },
    },
    rules: {
      'boundaries/element-types': [
        'error',
        { default: 'disallow', rules: floors.map((from) => ({ from, allow: below[from] })) },
      ],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      'no-restricted-syntax': ['error', { selector: 'TSEnumDeclaration', message: 'Use a union of texts.' }],
    },
  },
  {
    // A part that runs in the browser takes from the server only types.
    files: ['src/app/**/*.tsx', 'src/app/**/use-*.ts', 'src/app/shared/*.ts'],
    ignores: [
      'src/app/**/page.tsx',
      'src/app/**/layout.tsx',
      'src/app/shared/page-data.ts',
      'src/app/**/route.ts',
    ],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['@/server/*', '@/db/*', '@/server/**', '@/db/**'],
              allowTypeImports: true,
              message: 'A client part takes types from the server, never code.',
            },
          ],
        },
      ],
    },
  },
  {
    // The core has no clock, no chance and no outside world.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
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
  { files: ['tests/**/*.ts', '**/*.test.ts'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
)
