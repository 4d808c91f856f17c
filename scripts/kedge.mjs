// npm run kedge -- COMMAND: what administrators do in a terminal. Without words it lists the commands.
import { ensureNodeModules, root } from './lib/bootstrap.mjs'

const ofTheRepository = { print: './print.mjs', 'keep-release': './keep-release.mjs' }
const own = ofTheRepository[process.argv[2]]
if (own) {
  await import(own)
  process.exit()
}
ensureNodeModules()
const { start } = await import('./lib/run.mjs')
const { tsx } = await import('./lib/tools.mjs')
const child = start(tsx[0], [...tsx[1], ...process.argv.slice(2)], { cwd: root })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
child.once('exit', (code) => process.exit(code ?? 1))
