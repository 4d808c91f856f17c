import pg from 'pg'
import { openSchool, type TestSchool } from './school'

let school: TestSchool
let app: pg.Client
beforeAll(async () => {
  school = await openSchool()
  app = new pg.Client({ connectionString: school.appUrl })
  await app.connect()
})
afterAll(async () => {
  await app.end()
  await school.close()
})

const inSchool = async (schoolId: string, statement: string, values: unknown[] = []) => {
  await app.query('begin')
  try {
    await app.query("select set_config('kedge.school', $1, true)", [schoolId])
    return (await app.query(statement, values)).rows
  } finally {
    await app.query('rollback')
  }
}

test('every table of a school has school_id first in its key and forced row-level security', async () => {
  const tables = await school.rows<{ name: string; forced: boolean; first: string; policies: number }>(`
    select c.relname as name, c.relrowsecurity and c.relforcerowsecurity as forced,
      (select a.attname from pg_index i join pg_attribute a on a.attrelid = c.oid and a.attnum = i.indkey[0] where i.indrelid = c.oid and i.indisprimary) as first,
      (select count(*)::int from pg_policy p where p.polrelid = c.oid) as policies
    from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where n.nspname = 'public' and c.relkind = 'r' and c.relname not like 'kysely%'`)
  expect(tables.length).toBeGreaterThan(35)
  expect(tables.filter((t) => !t.forced || t.policies === 0).map((t) => t.name)).toEqual([])
  expect(tables.filter((t) => t.first !== 'school_id' && t.name !== 'school').map((t) => t.name)).toEqual([])
})

test('every table of a school keeps a history, or says why it needs none', async () => {
  const none: Readonly<Record<string, string>> = {
    school: 'is made and named in the terminal',
    history: 'is the history',
    command_run: 'stands beside the history',
    answered_command: 'forgets after a week',
    document: 'is never changed; what uses it has a history',
    document_contents: 'is never changed',
    data_check: 'is found anew every night',
    job: 'tells of itself',
    occurrence: 'tells that the clock did something',
    student_number: 'counts',
  }
  const without = await school.rows<{ name: string }>(`
    select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
    where c.relkind = 'r' and c.relname not like 'kysely%'
      and not exists (select 1 from pg_trigger t where t.tgrelid = c.oid and t.tgname = 'keep_history_added') order by 1`)
  expect(without.map((t) => t.name)).toEqual(Object.keys(none).sort())
})

test('the history of a table knows all its columns', async () => {
  // A migration that adds a column calls kedge_keep_history_of again.
  const forgotten = await school.rows(`
    select c.relname || '.' || a.attname as name from pg_trigger t join pg_class c on c.oid = t.tgrelid join pg_proc p on p.oid = t.tgfoid
    join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
    where t.tgname = 'keep_history_changed' and p.prosrc not like '%o.' || quote_ident(a.attname) || ' is distinct from%'
      and a.attname <> all (kedge_unkept())`)
  expect(forgotten).toEqual([])
})

test('what names a row in the history names one row alone', async () => {
  // Two rows of one key would be one to an undo: of a class that somebody taught twice, it brought back one.
  const ambiguous = await school.rows<{ name: string }>(`
    select c.relname as name from pg_trigger t join pg_class c on c.oid = t.tgrelid
    where t.tgname = 'keep_history_changed' and not exists (
      select 1 from pg_index i where i.indrelid = c.oid and i.indisunique and i.indpred is null and not exists (
        select 1 from pg_attribute a where a.attrelid = c.oid and a.attnum = any(i.indkey) and a.attname <> 'school_id'
          and a.attname <> all (string_to_array(encode(t.tgargs, 'escape'), '\\000')))) order by 1`)
  expect(ambiguous.map(({ name }) => name)).toEqual([])
})

test('every foreign key between tables of a school carries the school', async () => {
  const loose = await school.rows(`
    select k.conrelid::regclass::text as from_table, k.conname from pg_constraint k
    where k.contype = 'f' and k.confrelid::regclass::text not in ('school', 'auth."user"') and k.conrelid::regclass::text not like 'auth.%'
      and k.connamespace = 'public'::regnamespace
      and not exists (select 1 from pg_attribute a where a.attrelid = k.conrelid and a.attnum = any(k.conkey) and a.attname = 'school_id')`)
  expect(loose).toEqual([])
})

test('the application owns nothing and cannot leave its role', async () => {
  const owned = await school.rows(
    "select c.relname from pg_class c join pg_roles r on r.oid = c.relowner where r.rolname = 'kedge_app'",
  )
  expect(owned).toEqual([])
  const role = await school.row(
    "select rolsuper, rolbypassrls, rolcreaterole, rolcreatedb from pg_roles where rolname = 'kedge_app'",
  )
  expect(Object.values(role)).toEqual([false, false, false, false])
  await expect(app.query('set role kedge_owner')).rejects.toThrow('permission denied')
})

test('without a school set nothing is seen, and another school’s rows cannot be written', async () => {
  expect((await app.query('select count(*)::int as n from student')).rows[0].n).toBe(0)
  const { id } = await school.row('select id from school')
  expect(Number((await inSchool(id, 'select count(*) as n from student'))[0].n)).toBeGreaterThan(500)
  const other = crypto.randomUUID()
  expect((await inSchool(other, 'select count(*)::int as n from student'))[0].n).toBe(0)
  await expect(
    inSchool(other, 'insert into subject (school_id, id, name, position) values ($1, $2, $3, 1)', [
      id,
      crypto.randomUUID(),
      'X',
    ]),
  ).rejects.toThrow('row-level security')
})

test('the history can be read but not changed by the application', async () => {
  const { id } = await school.row('select id from school')
  await expect(inSchool(id, "update history set actor = 'nobody'")).rejects.toThrow('permission denied')
  await expect(inSchool(id, 'delete from history')).rejects.toThrow('permission denied')
  await expect(
    inSchool(
      id,
      "insert into history (school_id, actor, command, table_name, row_key, operation) values ($1, 'x', 'x', 'x', '{}', 'insert')",
      [id],
    ),
  ).rejects.toThrow('permission denied')
})

test('memberships of one student may not overlap', async () => {
  const m = await school.row('select * from homeroom_member where upper(period) is null limit 1')
  await expect(
    inSchool(
      m.schoolId,
      "insert into homeroom_member (school_id, homeroom_id, student_id, period) values ($1, $2, $3, '[2026-12-01,)')",
      [m.schoolId, m.homeroomId, m.studentId],
    ),
  ).rejects.toThrow('exclusion')
  const c = await school.row('select * from class_member where upper(period) is null limit 1')
  await expect(
    inSchool(
      c.schoolId,
      "insert into class_member (school_id, class_id, student_id, period) values ($1, $2, $3, '[2026-12-01,)')",
      [c.schoolId, c.classId, c.studentId],
    ),
  ).rejects.toThrow('exclusion')
})

test('identifiers are version 7, so that new rows lie together', async () => {
  const { n } = await school.row(
    "select count(*)::int as n from (select id from student union all select id from class union all select id from assignment) x where substr(id::text, 15, 1) <> '7'",
  )
  expect(n).toBe(0)
})

test('the lists people open are served by an index', async () => {
  const { id } = await school.row('select id from school')
  const plans = [
    [
      "select * from attendance_mark where homeroom_id = $1 and session_date = '2026-11-20' and session = 'morning'",
      'homeroom',
    ],
    ['select * from history where student_id = $1 order by id desc limit 50', 'student'],
    [
      'select * from score s join assignment a on a.school_id = s.school_id and a.id = s.assignment_id where a.class_id = $1',
      'class',
    ],
    ['select * from class_member where student_id = $1', 'student'],
  ] as const
  for (const [statement, table] of plans) {
    const { id: object } = await school.row(`select id from ${table} limit 1`)
    // On a small school reading all is cheaper; what counts is that an index is there to serve a large one.
    await app.query('set enable_seqscan = off')
    const plan = (await inSchool(id, `explain ${statement}`, [object])).map((r) => r['QUERY PLAN']).join('\n')
    expect(`${statement}: ${plan}`).toMatch(/Index|Bitmap/)
  }
})

test('a temporary table called history keeps nothing out of the history', async () => {
  const unguarded = await school.rows(`
    select p.proname from pg_proc p where p.pronamespace = 'public'::regnamespace and p.proname like 'kedge\\_%'
      and (p.prosecdef or p.prorettype = 'trigger'::regtype)
      and not exists (select 1 from unnest(p.proconfig) c where c like 'search_path=%pg_temp')`)
  expect(unguarded).toEqual([])
  // Copies of a database do not take its grants along, so here the application may still create one.
  await app.query('create temporary table history (like public.history including all)')
  const { id, schoolId } = await school.row('select id, school_id from student limit 1')
  const seen = await inSchool(schoolId, 'update student set pronouns = $1 where id = $2 returning id', [
    'she',
    id,
  ])
  expect(seen).toHaveLength(1)
  await app.query('begin')
  await app.query("select set_config('kedge.school', $1, true)", [schoolId])
  await app.query('update student set pronouns = $1 where id = $2', ['they', id])
  const [kept] = (
    await app.query(
      'select after from public.history where student_id = $1 order by public.history.id desc limit 1',
      [id],
    )
  ).rows as { after: object }[]
  await app.query('rollback')
  expect(kept?.after).toEqual({ pronouns: 'they' })
  await app.query('drop table pg_temp.history')
})
