// Makes a fresh Debian machine ready: Debian packages, node_modules, and the built application.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fingerprint, root } from './fingerprint.mjs'
import { run } from './run.mjs'

export { root }
export const dataFolder = process.env.KEDGE_DATA ?? join(root, '.data')

/** The folder of the newest PostgreSQL server programs, or undefined. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql'
  if (!existsSync(base)) return undefined
  const versions = readdirSync(base).filter((v) => existsSync(join(base, v, 'bin/initdb')))
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0]
  return newest && join(base, newest, 'bin')
}

const debian = {
  postgresql: () => Boolean(postgresPrograms()),
  'chromium-headless-shell': () => existsSync('/usr/lib/chromium/chromium-headless-shell'),
}

/**
 * Installs the Debian packages that are missing. Without the right to do so it names them, and the line
 * that installs them, and stops.
 */
export function ensureDebianPackages(names) {
  const missing = names.filter((name) => !debian[name]())
  if (missing.length === 0) return
  const line = `apt-get update && apt-get install -y ${missing.join(' ')}`
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    console.error(
      `Kedge needs these Debian packages: ${missing.join(', ')}.\nInstall them with:\n\n  sudo sh -c '${line}'\n`,
    )
    process.exit(1)
  }
  console.log(`Installing Debian packages: ${missing.join(', ')}`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const quiet = { env, stdio: ['ignore', 'ignore', 'inherit'] }
  run('apt-get', ['update', '-qq'], quiet)
  run('apt-get', ['install', '-y', '-qq', ...missing], quiet)
}

/** Whether node_modules holds what the lock file names, whoever installed it. */
function isInstalled(lock) {
  const installed = join(root, 'node_modules/.package-lock.json')
  if (!existsSync(installed)) return false
  const { packages } = JSON.parse(readFileSync(installed, 'utf8'))
  return Object.entries(JSON.parse(lock).packages).every(
    ([path, { integrity, optional }]) => path === '' || optional || packages[path]?.integrity === integrity,
  )
}

/** Runs `npm ci` when node_modules does not match the lock file. */
export function ensureNodeModules() {
  const lock = readFileSync(join(root, 'package-lock.json'))
  const stamp = join(root, 'node_modules/.kedge-lock')
  const wanted = createHash('sha256').update(lock).digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  if (!isInstalled(lock)) {
    console.log('Installing packages (npm ci)')
    run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root })
  }
  writeFileSync(stamp, wanted)
}

/** Builds the application when what it is made from differs from what the last build was made from. */
export function ensureBuild() {
  const stamp = join(root, '.next/kedge-built')
  const wanted = fingerprint([
    'src',
    'public',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
    'package-lock.json',
  ])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  console.log('Building the application (next build)')
  rmSync(stamp, { force: true })
  run(process.execPath, [join(root, 'node_modules/next/dist/bin/next'), 'build'], {
    cwd: root,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
  })
  writeFileSync(stamp, wanted)
}

/** Creates the data folder; the PostgreSQL user must be able to reach what lies in it. */
export function ensureDataFolder() {
  mkdirSync(dataFolder, { recursive: true, mode: 0o755 })
  return dataFolder
}

/** All a machine needs before Kedge's database can be made on it. */
export function ensureDatabaseTools() {
  ensureDebianPackages(['postgresql'])
  ensureNodeModules()
  return ensureDataFolder()
}

/** All a machine needs before Kedge can be looked at or measured on it. */
export function ensureEverything() {
  ensureDebianPackages(['postgresql', 'chromium-headless-shell'])
  ensureNodeModules()
  const data = ensureDataFolder()
  ensureBuild()
  return data
}
