// Databases that tests copy: one with the tables alone, one with Wrackline School on Monday 23 November 2026.
import { environment } from './application.mjs'
import { ensureDatabase } from './postgres.mjs'
import { kedge } from './tools.mjs'

export const templates = { empty: 'kedge_template_empty', demo: 'kedge_template_demo' }

/** Makes both templates anew, so that tests always see today's migrations and generator. */
export function prepareTemplates(cluster) {
  for (const name of Object.values(templates)) {
    cluster.psql('postgres', `drop database if exists ${name} with (force)`)
    ensureDatabase(cluster, name)
    const env = environment(cluster, name)
    kedge(['migrate'], env)
    if (name === templates.demo) kedge(['demo', 'load', '--date', '2026-11-23'], env)
  }
}
