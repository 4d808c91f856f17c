import pino from 'pino'
import { config } from './config'

let logger: pino.Logger | undefined

/** The process's log, one JSON line an event, on standard error. */
export function log(): pino.Logger {
  logger ??= pino({ level: config().LOG_LEVEL, base: undefined }, pino.destination(2))
  return logger
}
