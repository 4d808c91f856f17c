// Databases that tests copy: one with the tables alone, one with Wrackline School on Monday 23 November 2026.
import { environment } from './application.mjs'
import { fingerprint } from './fingerprint.mjs'
import { ensureDatabase } from './postgres.mjs'
import { kedge } from './tools.mjs'

const templates = { empty: 'kedge_template_empty', demo: 'kedge_template_demo' }

/** All that migrations and the generator of the demo school are made of. */
const madeFrom = [
  ...['core', 'db', 'demo', 'formats', 'server', 'terminal', 'worker'].map((folder) => `src/${folder}`),
  'scripts/lib/templates.mjs',
  'package-lock.json',
]

/** Makes both templates anew, unless they were made from what is there today. */
export function prepareTemplates(cluster) {
  const wanted = fingerprint(madeFrom)
  const noted = cluster.psql(
    'postgres',
    `select shobj_description(oid, 'pg_database') from pg_database where datname = '${templates.demo}'`,
  )
  if (noted === wanted) return
  for (const name of Object.values(templates))
    cluster.psql('postgres', `drop database if exists ${name} with (force)`)
  ensureDatabase(cluster, templates.empty)
  kedge(['migrate'], environment(cluster, templates.empty))
  cluster.psql('postgres', `create database ${templates.demo} template ${templates.empty} owner kedge_owner`)
  kedge(['demo', 'load', '--date', '2026-11-23'], environment(cluster, templates.demo))
  // Noted last: what was interrupted is made anew.
  cluster.psql('postgres', `comment on database ${templates.demo} is '${wanted}'`)
}
