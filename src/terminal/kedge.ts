import { writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import type { Kysely } from 'kysely'
import { config } from '@/server/platform/config'
import { isPart } from '@/server/platform/log'
import { versionOfCode } from './version'

const usage = `kedge COMMAND

  migrate                                   bring the database to the newest version
  school create --name NAME --short SHORT --admin USER --admin-name "GIVEN FAMILY" [--zone ZONE]
                                            create an empty school and its first administrator
  password reset --user USER                give an account a new initial password
  demo load [--date YYYY-MM-DD]             load the made-up Wrackline School
  demo large --schools N                    load N schools of 1,250 students with a full year, for benchmarks
  demo notice                               print what the sign-in page of the demo says, for KEDGE_NOTICE
  demo test --file FILE                     write the demo's test, a PDF, to a file
  backup FILE                               write the whole database into a file, counted and compared
  restore FILE                              bring a backup into an empty database
  check                                     look whether what must always hold does, in every school
  tables                                    print the types of the database's tables, for src/db/tables.ts
  rights                                    print the table of rights, for docs/rights.md
  print                                     write both of these files, from a database made for it
  keep-release                              keep this version's demo school, which later versions migrate in tests
  web                                       answer pages at HOST and PORT
  worker [--mailbox PORT]                   run background work, with the stand-in mailbox if asked

The database is named by DATABASE_URL and DATABASE_OWNER_URL; docs/configuration.md tells more.`

/** The role that owns the tables; needed for everything that changes them. */
function ownerUrl(): string {
  const { DATABASE_OWNER_URL } = config()
  if (!DATABASE_OWNER_URL)
    throw new Error(
      'DATABASE_OWNER_URL is not set. It names the role that owns the tables; docs/configuration.md tells how.',
    )
  return DATABASE_OWNER_URL
}

/** The role that sees all schools, for backups. */
function backupUrl(): string {
  const { KEDGE_BACKUP_URL } = config()
  if (!KEDGE_BACKUP_URL)
    throw new Error(
      'KEDGE_BACKUP_URL is not set. It names a role that sees all schools, such as kedge_backup; docs/deploy.md tells how it is created.',
    )
  return KEDGE_BACKUP_URL
}

function required(values: Given, name: string): string {
  const value = values[name]
  if (!value) throw new Error(`--${name} is missing.\n\n${usage}`)
  return value
}

async function work(mailboxPort: string | undefined): Promise<void> {
  isPart('worker')
  const { log } = await import('@/server/platform/log')
  const { startMailbox } = await import('@/worker/stand-in-mailbox')
  const { startWorker, Unsafe } = await import('@/worker/worker')
  const mailbox = mailboxPort ? await startMailbox(Number(mailboxPort)) : undefined
  const worker = await startWorker(ownerUrl()).catch((error: unknown) => {
    // The log has said why.
    if (error instanceof Unsafe) process.exit(1)
    throw error
  })
  const stop = async (signal: string) => {
    log().info({ event: 'stopping' }, `asked to end by ${signal}; what is under way is finished first`)
    await worker.stop()
    await mailbox?.stop()
    log().info({ event: 'stopped' }, 'the worker has ended')
    process.exit(0)
  }
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => void stop(signal))
  log().info({ event: 'ready' }, 'the worker is ready')
  await worker.finished
}

async function answerPages(): Promise<void> {
  isPart('web')
  const { serve } = await import('@/web/serve')
  const { HOST, PORT } = config()
  process.exitCode = await serve(HOST, PORT)
}

type Given = Readonly<Record<string, string | undefined>>

/** What each command does. It loads the code that it needs, so that a small one answers at once. */
const commands: Readonly<Record<string, (given: Given) => Promise<void>>> = {
  migrate: async () => {
    const { migrate } = await import('@/db/migrate')
    const ran = await migrate(ownerUrl())
    console.log(ran.length > 0 ? `Ran ${ran.join(', ')}.` : 'The database is up to date.')
  },
  'school create': async (given) => {
    const school = {
      name: required(given, 'name'),
      shortName: required(given, 'short'),
      username: required(given, 'admin'),
      adminName: required(given, 'admin-name'),
      timeZone: given.zone,
    }
    const { createSchool } = await import('./create-school')
    const password = await createSchool(ownerUrl(), school)
    console.log(
      `${given.name} is there. ${given.admin} signs in with the initial password ${password} and then chooses one.`,
    )
  },
  'password reset': async (given) => {
    const { resetPassword } = await import('./reset-password')
    const password = await resetPassword(ownerUrl(), required(given, 'user'))
    console.log(
      `${given.user} signs in with the initial password ${password} and then chooses one. All sessions are ended.`,
    )
  },
  'demo load': async (given) => {
    const { loadDemo } = await import('@/demo/load-demo')
    console.log(await loadDemo(ownerUrl(), given.date ?? new Date().toISOString().slice(0, 10)))
  },
  'demo large': async (given) => {
    const { loadLarge } = await import('@/demo/load-demo')
    await loadLarge(ownerUrl(), Number(required(given, 'schools')), (line) => console.error(line))
  },
  'demo notice': async () => {
    const { demoNotice } = await import('@/demo/notice')
    console.log(JSON.stringify(demoNotice))
  },
  'demo test': async (given) => {
    const { heatAndIce, printTest } = await import('@/demo/heat-and-ice')
    writeFileSync(required(given, 'file'), await printTest('Heat and ice', heatAndIce))
  },
  backup: async (given) => {
    const file = given.file ?? ''
    if (!file) throw new Error('Name the file: npm run kedge -- backup FILE')
    const { backUp } = await import('./backup')
    const { tables, rows, bytes } = await backUp(backupUrl(), file, config().KEDGE_VERSION)
    console.log(
      `${file} holds ${rows} rows of ${tables} tables, ${(bytes / 1048576).toFixed(1)} MiB. All were counted.`,
    )
  },
  restore: async (given) => {
    const file = given.file ?? ''
    if (!file) throw new Error('Name the file: npm run kedge -- restore FILE')
    const { restore } = await import('./backup')
    const { tables, rows, kedge, isOlder } = await restore(ownerUrl(), backupUrl(), file)
    console.log(
      `${rows} rows of ${tables} tables are there, as Kedge ${kedge} wrote them.${isOlder ? ' Now run: npm run kedge -- migrate' : ''}`,
    )
  },
  check: async () => {
    const { checkSchools } = await import('./check-schools')
    const isGood = await checkSchools(ownerUrl(), (line) => console.log(line))
    if (!isGood) process.exitCode = 1
  },
  tables: async () => {
    const { connect } = await import('@/db/connection')
    const { printTables } = await import('@/db/print-tables')
    const db = connect(ownerUrl(), { max: 1 }).withoutPlugins()
    console.log((await printTables(db as Kysely<unknown>)).trimEnd())
    await db.destroy()
  },
  rights: async () => {
    const { printRights } = await import('./print-rights')
    console.log(printRights().trimEnd())
  },
  worker: (given) => work(given.mailbox),
  web: answerPages,
}

async function main(): Promise<void> {
  process.env.KEDGE_VERSION ??= versionOfCode()
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: Object.fromEntries(
      ['name', 'short', 'admin', 'admin-name', 'zone', 'user', 'date', 'file', 'mailbox', 'schools'].map(
        (o) => [o, { type: 'string' as const }],
      ),
    ),
  })
  // Backups are named like files everywhere: without a word in front.
  const isOnFile = positionals[0] === 'backup' || positionals[0] === 'restore'
  const command = isOnFile ? positionals[0] : positionals.join(' ')
  const given = isOnFile ? { ...values, file: positionals[1] } : values
  if (command !== undefined && Object.hasOwn(commands, command)) return commands[command]?.(given as Given)
  console.log(usage)
  process.exitCode = positionals.length === 0 ? 0 : 1
}

main().then(
  () => process.exit(process.exitCode),
  (error: unknown) => {
    console.error(error instanceof Error ? error.message : error)
    process.exit(1)
  },
)
