// Wrackline School in a database of its own on the test cluster, for pictures and measurements.
import { ensureDatabase } from './postgres.mjs'
import { environment } from './application.mjs'
import { kedge } from './tools.mjs'

/**
 * Makes a database anew and loads the demo school as it is on Monday 23 November 2026.
 * @returns the environment of Kedge's programs on it, at 09:05 that day
 */
export function loadWrackline(cluster, name, extra = {}) {
  cluster.psql('postgres', `drop database if exists ${name} with (force)`)
  ensureDatabase(cluster, name)
  const env = environment(cluster, name, extra)
  kedge(['migrate'], env)
  kedge(['demo', 'load', '--date', '2026-11-23'], env)
  return { ...env, KEDGE_NOTICE: kedge(['demo', 'notice'], env), KEDGE_NOW: '2026-11-23T09:05:00' }
}
