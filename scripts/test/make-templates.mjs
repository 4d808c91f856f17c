// The part "templates" of npm test, on the cluster that npm test has started.
import { join } from 'node:path'
import { dataFolder } from '../lib/bootstrap.mjs'
import { startCluster } from '../lib/postgres.mjs'
import { prepareTemplates } from '../lib/templates.mjs'

const cluster = await startCluster(join(dataFolder, 'test-postgres'), { durable: false })
prepareTemplates(cluster)
cluster.stop()
