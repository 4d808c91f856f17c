import pino from 'pino'
import { config } from './config'

let logger: pino.Logger | undefined

/** Addresses of people have no place in a log, whoever wrote them into a message. */
export const withoutAddresses = (line: string): string =>
  line.replace(/[^\s"'<>@(),;:\\]+@[^\s"'<>@(),;:\\]+\.[a-z]{2,}/gi, '[address]')

/** Which part of Kedge writes: the web application, the worker, or a command in a terminal. */
export type Part = 'web' | 'worker' | 'command'

const shared = globalThis as typeof globalThis & { kedgePart?: Part }

/** Says once, at the start, which part this process is. */
export const isPart = (part: Part): void => void (shared.kedgePart = part)

/** The process's log, one JSON line an event, on standard error or in the file of KEDGE_LOG. */
export function log(): pino.Logger {
  const { LOG_LEVEL, KEDGE_LOG, KEDGE_VERSION } = config()
  if (logger) return logger
  const to = pino.destination(
    KEDGE_LOG ? { dest: KEDGE_LOG, mkdir: true, sync: true } : { dest: 2, sync: true },
  )
  logger = pino(
    {
      level: LOG_LEVEL,
      base: { part: shared.kedgePart ?? 'command', version: KEDGE_VERSION },
      timestamp: pino.stdTimeFunctions.isoTime,
      formatters: { level: (level) => ({ level }) },
    },
    { write: (line: string) => void to.write(withoutAddresses(line)) },
  )
  return logger
}
