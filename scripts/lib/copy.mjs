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
