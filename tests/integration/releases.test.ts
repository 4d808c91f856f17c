import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { checkRules, good, openSchool } from './school'

// What was released: its demo school goes on with whatever came later, and what made it is never edited.

const folder = join(process.cwd(), 'tests/releases')
const migrations = join(process.cwd(), 'src/db/migrations')
const versions = readdirSync(folder)
  .filter((name) => name.endsWith('.json'))
  .map((name) => name.replace(/\.json$/, ''))

test('there is a release', () => expect(versions.length).toBeGreaterThan(0))

test.each(versions)('the migrations that %s was made by are as they were', (version) => {
  const kept = JSON.parse(readFileSync(join(folder, `${version}.json`), 'utf8')) as Record<string, string>
  const edited = Object.entries(kept).filter(([name, fingerprint]) => {
    const path = join(migrations, name)
    return !existsSync(path) || createHash('sha256').update(readFileSync(path)).digest('hex') !== fingerprint
  })
  // What a later version needs otherwise is a migration of its own.
  expect(edited.map(([name]) => name)).toEqual([])
})

test.each(versions)('the school of %s is carried on', async (version) => {
  const { postgresPrograms } = (await import(join(process.cwd(), 'scripts/lib/bootstrap.mjs'))) as {
    postgresPrograms: () => string
  }
  const { migrate } = await import('@/db/migrate')
  const school = await openSchool(async ({ superuser, owner }) => {
    const loaded = spawnSync(join(postgresPrograms(), 'psql'), ['-qX', '-v', 'ON_ERROR_STOP=1', superuser], {
      input: gunzipSync(readFileSync(join(folder, `${version}.sql.gz`))),
      maxBuffer: 64 * 1024 * 1024,
    })
    if (loaded.status !== 0) throw new Error(loaded.stderr.toString())
    await migrate(owner)
    // Once more: nothing is left to do.
    expect(await migrate(owner)).toEqual([])
  })
  const teacher = await school.actor('r.achterberg')
  const homeroomId = String(
    (await school.row("select id from homeroom where name = '7 Tern' order by id limit 1")).id,
  )
  const date = '2026-11-23'
  good(await school.query('shell.frame', teacher, {}))
  good(await school.query('today.due', teacher, { date }))
  const register = good(
    await school.query('attendance.register', teacher, { homeroomId, date, session: 'morning' }),
  )
  expect(register.rows.length).toBeGreaterThan(20)
  const [{ studentId } = { studentId: '' }] = register.rows
  good(
    await school.execute('attendance.setMarks', teacher, {
      homeroomId,
      date,
      session: 'morning',
      cells: [
        {
          key: { studentId },
          value: { codeId: register.codes[0]?.id ?? null, minutesLate: null, note: null },
          expectedVersion: register.rows[0]?.mark?.version ?? 0,
        },
      ],
    }),
  )
  await checkRules(school)
  await school.close()
})
