// A copy of the project to try changes in, so that nothing changes here.
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
