import { createServer } from 'node:http'
import { inspect } from 'node:util'
import next from 'next'
import { config } from '@/server/platform/config'
import { lastFit } from '@/server/platform/last-fit'
import { log } from '@/server/platform/log'
import { stopAll } from '@/server/platform/stopping'
import { lookAtDatabase, watchDatabase } from '@/server/platform/watch-database'
import { lookedAfter } from './looked-after'

/** How long requests that are under way may take once the process was asked to end, in milliseconds. */
const lastRequests = 8000

/** What the framework prints becomes lines of the log like all others. */
function logConsole(): void {
  const words = (parts: readonly unknown[]) =>
    parts.map((part) => (typeof part === 'string' ? part : inspect(part))).join(' ')
  console.log = (...parts: unknown[]) => log().debug({ event: 'framework' }, words(parts))
  console.info = console.log
  console.warn = (...parts: unknown[]) => log().warn({ event: 'framework' }, words(parts))
  console.error = (...parts: unknown[]) => log().error({ event: 'framework' }, words(parts))
}

/** The reason in words why nobody can listen at an address. */
function listenWords(error: NodeJS.ErrnoException, host: string, port: number): string {
  if (error.code === 'EADDRINUSE') return `Port ${port} is taken at ${host}. Set PORT to another one.`
  if (error.code === 'EACCES') return `Port ${port} may not be used by this user. Set PORT to one above 1023.`
  if (error.code === 'EADDRNOTAVAIL') return `${host} is no address of this machine. Set HOST to one that is.`
  return `Kedge cannot listen at ${host}:${port}: ${error.message}`
}

/**
 * Runs the web application until it is asked to end. A database that does not fit does not keep it from starting: its
 * pages say that Kedge is being looked after, until it fits. One in which schools would see each other does.
 * @returns the code the process ends with
 */
export async function serve(host: string, port: number): Promise<number> {
  config()
  logConsole()
  if ((await lookAtDatabase()).kind === 'unsafe') return 1
  const app = next({ dev: false, dir: process.cwd(), hostname: host, port, quiet: true })
  await app.prepare()
  const answer = app.getRequestHandler()
  const server = createServer((request, response) => {
    const path = request.url ?? '/'
    const isWatched = /^\/(api\/(health|ready)|_next\/)/.test(path)
    if (lastFit().kind === 'other version' && !isWatched) return lookedAfter(path, response)
    void answer(request, response)
  })
  return new Promise((resolve) => {
    let code = 0
    const stop = (how: string, asCode = 0) => {
      code = asCode
      log().info({ event: 'stopping' }, how)
      server.close(() => {
        log().info({ event: 'stopped' }, 'all requests were answered')
        resolve(code)
      })
      stopAll()
      server.closeIdleConnections()
      setTimeout(() => server.closeAllConnections(), lastRequests).unref()
    }
    const stopWatching = watchDatabase((fit) => {
      if (fit.kind === 'unsafe') stop('schools could see each other', 1)
    })
    server.once('close', stopWatching)
    server.once('error', (error: NodeJS.ErrnoException) => {
      log().fatal({ event: 'start' }, listenWords(error, host, port))
      resolve(1)
    })
    server.listen(port, host, () => log().info({ event: 'ready', host, port }, 'Kedge answers'))
    for (const signal of ['SIGTERM', 'SIGINT'] as const)
      process.once(signal, () => stop(`asked to end by ${signal}`))
  })
}
