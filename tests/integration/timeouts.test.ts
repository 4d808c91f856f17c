import { sql } from 'kysely'
import { openSchool, type TestSchool } from './school'

// How long people wait for a database that is busy; other tests wait longer.
let school: TestSchool
beforeAll(async () => {
  process.env.KEDGE_TIMEOUTS = '1'
  school = await openSchool()
})
afterAll(() => school.close())

test('one locked row and many who wait: health answers, and they hear that it is busy', async () => {
  const english = await school.row(
    `select c.id, u.username from class c join class_teacher t on t.class_id = c.id join membership m on m.person_id = t.staff_id
      join auth."user" u on u.id = m.account_id where c.name = '7 English A'`,
  )
  const writer = await school.actor(english.username)
  const { askDatabase, database } = await import('@/server/platform/database')
  const { rows } = await sql<{ statement: string; lock: string; idle: string }>`
    select current_setting('statement_timeout') as statement, current_setting('lock_timeout') as lock,
      current_setting('idle_in_transaction_session_timeout') as idle`.execute(database())
  expect(rows[0]).toEqual({ statement: '15s', lock: '4s', idle: '30s' })
  const roundId = (await school.row('select id from report_round')).id
  await school.rows('begin')
  await school.rows('select 1 from class_entries where class_id = $1 for update', [english.id])
  const students = await school.rows(
    'select student_id as id from class_member where class_id = $1 limit 12',
    [english.id],
  )
  const waiting = students.map((s) =>
    school.execute('reports.setEntries', writer, {
      roundId,
      classId: english.id,
      cells: [{ key: { studentId: s.id }, value: { effort: 'good', comment: 'x' }, expectedVersion: 0 }],
    }),
  )
  const everyConnectionWaits = async () => {
    // Within a transaction the database shows what it showed first.
    await school.rows('select pg_stat_clear_snapshot()')
    const { n } = await school.row(
      "select count(*)::int as n from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'",
    )
    return n === 10
  }
  while (!(await everyConnectionWaits())) await new Promise((resolve) => setTimeout(resolve, 20))
  await expect(askDatabase('select 1 as one')).resolves.toEqual([{ one: 1 }])
  const answers = await Promise.all(waiting)
  await school.rows('rollback')
  expect(new Set(answers.map((a) => (a.ok ? 'saved' : a.failure.kind)))).toEqual(new Set(['unavailable']))
})
