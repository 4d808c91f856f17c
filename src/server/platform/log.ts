import pino from 'pino'
import { config } from './config'

let logger: pino.Logger | undefined

/** The process's log, one JSON line an event, on standard error or in the file of KEDGE_LOG. */
export function log(): pino.Logger {
  const { LOG_LEVEL, KEDGE_LOG } = config()
  logger ??= pino(
    { level: LOG_LEVEL, base: undefined },
    pino.destination(KEDGE_LOG ? { dest: KEDGE_LOG, mkdir: true, sync: true } : 2),
  )
  return logger
}
