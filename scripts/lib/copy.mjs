// A copy of the project to try changes in, so that nothing changes here.
import { spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, rmSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { dataFolder, root } from './bootstrap.mjs'

/** Copies what tests are made of; the packages are shared. Answers where it is, and how it goes again. */
export function copyProject(name) {
  const folder = join(dataFolder, name)
  const remove = () => rmSync(folder, { recursive: true, force: true })
  remove()
  mkdirSync(folder, { recursive: true })
  for (const part of ['src', 'tests', 'scripts', 'docs', 'jest.config.mjs', 'package.json', 'tsconfig.json'])
    if (existsSync(join(root, part))) cpSync(join(root, part), join(folder, part), { recursive: true })
  symlinkSync(join(root, 'node_modules'), join(folder, 'node_modules'))
  return { folder, remove }
}

/**
 * Runs tests of a copy whose source was changed.
 * @param {string} folder the copy
 * @param {object} options
 * @param {string} options.project of Jest
 * @param {string} options.pattern of the files' paths
 * @param {Record<string, string>} options.env beside this process's own
 * @param {number} options.timeout in milliseconds
 * @returns {{ ok: boolean, said: string }}
 */
export function tryTests(folder, { project, pattern, env = {}, timeout }) {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/jest/bin/jest.js',
      `--selectProjects=${project}`,
      `--testPathPatterns=${pattern}`,
      '--bail',
      '--maxWorkers=1',
      '--forceExit',
    ],
    { cwd: folder, encoding: 'utf8', maxBuffer: 1 << 28, timeout, env: { ...process.env, ...env } },
  )
  return { ok: status === 0, said: `${stdout}${stderr}` }
}
