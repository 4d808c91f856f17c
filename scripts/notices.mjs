// npm run notices: writes THIRD-PARTY-NOTICES.md from the lock file: every package that ships with Kedge, with its licence.
// With --check it only says whether the file is current.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './lib/bootstrap.mjs'

const file = join(root, 'THIRD-PARTY-NOTICES.md')
const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'))

/** What the licence file of a package begins with, for the few whose description names no licence. */
function written(path) {
  const folder = join(root, path)
  const name = existsSync(folder) && readdirSync(folder).find((f) => /^licen[cs]e/i.test(f))
  if (!name) return undefined
  const text = readFileSync(join(folder, name), 'utf8')
  if (/^\s*(the )?mit license/i.test(text) || text.includes('Permission is hereby granted, free of charge'))
    return 'MIT'
  return undefined
}

const shipped = Object.entries(packages).filter(([path, { dev }]) => path !== '' && !dev)
const lines = new Map()
const without = []
for (const [path, { version, license }] of shipped) {
  const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length)
  const words = license ?? written(path)
  if (!words) without.push(name)
  lines.set(`${name} ${version}`, `| ${name} | ${version} | ${words ?? 'not stated'} |`)
}
if (without.length > 0) {
  console.error(`No licence is known of: ${without.join(', ')}. Replace them.`)
  process.exitCode = 1
}
const text = `# Third-party notices

Kedge ships with these packages, or may: some are for one kind of machine only. Their licences lie with them in
\`node_modules\`. \`npm run notices\` writes this file from \`package-lock.json\`.

| package | version | licence |
| --- | --- | --- |
${[...lines.keys()]
  .sort((a, b) => (a < b ? -1 : 1))
  .map((key) => lines.get(key))
  .join('\n')}
`
if (process.argv.includes('--check')) {
  if (existsSync(file) && readFileSync(file, 'utf8') === text) console.log('The notices are current.')
  else {
    console.error('THIRD-PARTY-NOTICES.md is not current. Run: npm run notices')
    process.exitCode = 1
  }
} else {
  writeFileSync(file, text)
  console.log(`${lines.size} packages are listed.`)
}
