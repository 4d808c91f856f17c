// The environment of tests that stand on the database.
import { environment } from '../lib/application.mjs'
import { limits } from './limits.mjs'

/** What tests read: the addresses of databases by role, with a place for the name, and the day that counts as today. */
export function testEnvironment(cluster) {
  const urls = (role) => cluster.url(role, '{database}')
  return {
    ...environment(cluster, 'kedge_none'),
    KEDGE_TEST_DATABASES: JSON.stringify({
      superuser: urls('postgres'),
      owner: urls('kedge_owner'),
      app: urls('kedge_app'),
    }),
    KEDGE_NOW: '2026-11-23T09:05:00',
    // How long is waited for the database is meant for people; a test on a busy machine waits longer.
    KEDGE_TIMEOUTS: String(limits.timeouts),
    KEDGE_TEST_WAIT: String(limits.wait),
    LOG_LEVEL: 'error',
    NODE_ENV: 'test',
  }
}
