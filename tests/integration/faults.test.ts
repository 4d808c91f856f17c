import type { Actor } from '@/server/platform/actor'
import { limits } from '@/core/limits'
import { usualSettings } from '@/core/marks/usual-settings'
import { linkTo, moveEntries, setEntry, typeAnswers } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

/** Bad input, a database that is busy or says no, and work that got lost. */

let school: TestSchool
let teacher: Actor, head: Actor, admin: Actor
let classId: string
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  head = await school.actor('s.kirkness')
  admin = await school.actor('m.vester')
  classId = (await school.row("select id from class where name = '7 Science A'")).id
})
afterAll(() => school.close())

const create = (over: object = {}) =>
  school.execute('assessment.create', teacher, {
    name: 'x',
    classIds: [classId],
    givenOn: date,
    questions: 2,
    choices: 4,
    points: '1',
    ...over,
  })

describe('what cannot be stored is a refusal, never "try again"', () => {
  test('a control character, and half a character', async () => {
    for (const name of ['left\u0000early', 'bell\u0007', 'half \ud83d'])
      expect(bad(await create({ name }))).toMatchObject({ kind: 'invalid', fields: [{ path: 'name' }] })
    expect((await create({ name: 'sail ⛵' })).ok).toBe(true)
  })
  test('a number too large for its column', async () => {
    expect(bad(await create({ points: '10000' }))).toMatchObject({
      kind: 'invalid',
      fields: [{ path: 'points' }],
    })
    good(await create({ points: limits.questionPoints }))
    const { book, term } = good(await school.query('marks.gradebook', teacher, { classId, date }))
    const asked = {
      termId: term.id,
      targets: [{ classId, expectedVersion: book?.version ?? 0 }],
      ...usualSettings,
      categories: usualSettings.categories.map((c) => ({ ...c, weight: '10000' })),
    }
    expect(bad(await school.execute('marks.saveSettings', teacher, asked)).kind).toBe('invalid')
  })
  test('a learning standard that is gone, and a question twice', async () => {
    const made = good(await create())
    const key = good(await school.query('assessment.key', teacher, made))
    const ask = (questions: object[]) =>
      school.execute('assessment.setQuestions', teacher, {
        ...made,
        expectedVersion: key.version,
        questions,
      } as never)
    expect(
      bad(await ask(key.questions.map((q) => ({ ...q, standardIds: [crypto.randomUUID()] })))).message,
    ).toContain('A learning standard of question 1 no longer exists')
    expect(bad(await ask([{ ...key.questions[0] }, { ...key.questions[0] }]))).toMatchObject({
      code: 'assessment.questionTwice',
    })
  })
  test('a homeroom that would exist twice', async () => {
    const yearId = (await school.row('select id from academic_year')).id
    for (const input of [
      { names: ['Year 21', '21'], homerooms: ['Tern'] },
      { names: ['Year 13'], homerooms: ['Tern', 'Tern'] },
    ])
      expect(bad(await school.execute('year.addYearGroups', admin, { yearId, ...input }))).toMatchObject({
        kind: 'invalid',
        fields: [{ path: 'homerooms' }],
      })
  })
  test('a gradebook for a term the class is not taught in', async () => {
    const spring = await school.row("select id from term where name = 'Spring'")
    await school.rows('delete from assignment where class_id = $1 and term_id = $2', [classId, spring.id])
    for (const table of ['category', 'gradebook', 'class_term'])
      await school.rows(`delete from ${table} where class_id = $1 and term_id = $2`, [classId, spring.id])
    expect(
      bad(
        await school.execute('marks.saveSettings', teacher, {
          termId: spring.id,
          targets: [{ classId, expectedVersion: 0 }],
          ...usualSettings,
          categories: [...usualSettings.categories],
        }),
      ),
    ).toMatchObject({ code: 'marks.termOfOther' })
  })
  test('excused over answers that count; points of all questions set to 0 leave dropping sensible', async () => {
    const made = good(await create({ name: 'Linked' }))
    const { book, students } = good(await school.query('marks.gradebook', teacher, { classId, date }))
    const studentId = students[4]?.id ?? ''
    good(await typeAnswers(school, teacher, { ...made, studentId, letters: 'AB', expectedVersion: 0 }))
    const { assignmentId } = good(
      await linkTo(school, teacher, {
        classId,
        ...made,
        categoryId: book?.categories[0]?.id ?? '',
      }),
    )
    expect(
      bad(
        await school.execute('marks.setScores', teacher, {
          classId,
          cells: [{ key: { assignmentId, studentId }, value: { kind: 'excused' }, expectedVersion: 0 }],
        }),
      ),
    ).toMatchObject({ code: 'marks.linkedAnswers' })
  })
})

test('errors of the database become what they are: a refusal, "later", or a fault of ours', async () => {
  const { failureOf } = await import('@/server/platform/database-errors')
  const kinds = Object.fromEntries(
    [
      '23505',
      '23503',
      '23P01',
      '23514',
      '22003',
      '22021',
      '21000',
      '55P03',
      '57014',
      '57P01',
      '08006',
      'XX000',
    ].map((code) => [code, failureOf(Object.assign(new Error('x'), { code })).kind]),
  )
  expect(kinds).toEqual({
    '23505': 'refused',
    '23503': 'refused',
    '23P01': 'refused',
    '23514': 'fault',
    '22003': 'fault',
    '22021': 'fault',
    '21000': 'fault',
    '55P03': 'unavailable',
    '57014': 'unavailable',
    '57P01': 'unavailable',
    '08006': 'unavailable',
    XX000: 'fault',
  })
  expect(failureOf(new TypeError('x')).kind).toBe('fault')
})

test('a print of a whole large school is stored; an upload of that size is not', async () => {
  const roundId = (await school.row('select id from report_round')).id
  const bytes = Buffer.alloc(26 * 1024 * 1024, 1)
  const { executeCommand } = await import('@/server/platform/run')
  const { commands } = await import('@/server/registry')
  const print = {
    roundId,
    homeroomId: null,
    jobId: crypto.randomUUID(),
    name: 'All.pdf',
    bytes,
    pageCount: 2400,
  }
  const keepPrint = commands.get('reports.keepPrint')
  const upload = commands.get('files.upload')
  if (!keepPrint || !upload) throw new Error('both are registered')
  expect(keepPrint.by).toBe('job')
  good(await executeCommand(keepPrint, head, print))
  expect(
    bad(
      await executeCommand(upload, head, {
        name: 'All.pdf',
        bytes,
        mediaType: 'application/pdf',
        pageCount: 1,
      }),
    ).kind,
  ).toBe('fault')
})

test('work that the queue has lost is noted as failed and can be tried again', async () => {
  const roundId = (await school.row('select id from report_round')).id
  const { jobId } = good(await school.execute('reports.askForCards', head, { roundId, homeroomId: null }))
  await school.rows("update job set state = 'running' where id = $1", [jobId])
  const { endLostJobs } = await import('@/worker/run-job')
  await endLostJobs(head.schoolId, async () => [jobId])
  expect((await school.row('select state from job where id = $1', [jobId])).state).toBe('running')
  // One that is started while the queue is being asked is not lost.
  let late = ''
  await endLostJobs(head.schoolId, async () => {
    late = good(await school.execute('reports.askForCards', head, { roundId, homeroomId: null })).jobId
    return []
  })
  expect((await school.row('select state from job where id = $1', [late])).state).toBe('waiting')
  expect(await school.row('select state, message from job where id = $1', [jobId])).toEqual({
    state: 'failed',
    message: 'This stopped before it was finished. Please try again.',
  })
  good(await school.execute('work.retry', head, { jobId }))
})

test('work of an unknown kind fails with a sentence, and does something else never', async () => {
  const jobId = crypto.randomUUID()
  await school.rows(
    "insert into job (school_id, id, kind, title, input, account_id, actor) values ($1, $2, 'reports.unknown', 't', '{}', $3, 'x')",
    [head.schoolId, jobId, head.accountId],
  )
  const { runJob } = await import('@/worker/run-job')
  await runJob({ schoolId: head.schoolId, id: jobId }, { last: true })
  expect(await school.row('select state, message from job where id = $1', [jobId])).toMatchObject({
    state: 'failed',
    message: expect.stringContaining('Something went wrong in Kedge'),
  })
  expect(await school.rows('select 1 from report_card')).toEqual([])
})

test('characters that no font has are named before a release', async () => {
  const roundId = (await school.row('select id from report_round')).id
  const { studentId } = await school.row(
    "select m.student_id from class_member m where m.class_id = $1 and m.period @> date '2026-11-23' order by m.student_id limit 1",
    [classId],
  )
  const comment = 'Writes 中 well, from Юлия → λ.'
  good(
    await setEntry(school, teacher, {
      roundId,
      classId,
      studentId,
      effort: null,
      comment,
      expectedVersion: 0,
    }),
  )
  good(await moveEntries(school, teacher, 'handIn', { roundId, classId }))
  good(await moveEntries(school, head, 'check', { roundId, classId }))
  expect(bad(await school.execute('reports.askForRelease', head, { roundId }))).toMatchObject({
    code: 'reports.cannotPrint',
    about: { cards: [{ where: '7 Science A', characters: '中' }] },
  })
  good(await school.execute('reports.askForRelease', head, { roundId, withoutThem: true }))
})

test('every foreign key has an index, every version its trigger, and the columns hold what the inputs allow', async () => {
  const unindexed = await school.rows(`
    select c.conrelid::regclass::text as table, c.conname from pg_constraint c
    where c.contype = 'f' and c.connamespace = 'public'::regnamespace and not exists (
      select 1 from pg_index i where i.indrelid = c.conrelid and i.indpred is null
        and (select array_agg(x order by x) from unnest((i.indkey::int2[])[0:array_length(c.conkey, 1) - 1]) x)
          = (select array_agg(x order by x) from unnest(c.conkey) x))`)
  expect(unindexed).toEqual([])
  const untriggered = await school.rows(`
    select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'version'
    where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
      and not exists (select 1 from pg_trigger t where t.tgrelid = c.oid and t.tgname = 'next_version')`)
  expect(untriggered).toEqual([])
  const lengths = await school.rows(`
    select conrelid::regclass::text as table, substring(pg_get_constraintdef(oid) from '\\((\\w+)\\) <=') as column,
      substring(pg_get_constraintdef(oid) from '<= (\\d+)')::int as most
    from pg_constraint where conname like '%_length' and connamespace = 'public'::regnamespace order by 1, 2`)
  const most = (table: string, column: string) =>
    lengths.find((l) => l.table === table && l.column === column)?.most
  expect([
    most('student', 'legal_given_name'),
    most('guardian', 'email'),
    most('assignment', 'name'),
    most('report_entry', 'comment'),
    most('document', 'name'),
  ]).toEqual([limits.personName, limits.email, limits.shortName, limits.comment, limits.fileName])
  const holds = async (table: string, column: string) =>
    (
      await school.row(
        `select (10 ^ ((atttypmod - 4 >> 16) - (atttypmod - 4 & 65535)))::int as limit from pg_attribute where attrelid = $1::regclass and attname = $2`,
        [table, column],
      )
    ).limit
  expect([
    await holds('question_key', 'points'),
    await holds('score', 'points'),
    await holds('category', 'weight'),
  ]).toEqual([limits.questionPoints, limits.points, limits.weight].map((text) => Math.ceil(Number(text))))
})

test('the types of the tables and the table of rights are those of the code', async () => {
  const { readFileSync } = await import('node:fs')
  const { connect } = await import('@/db/connection')
  const { printTables } = await import('@/db/print-tables')
  const { printRights } = await import('@/terminal/print-rights')
  const db = connect(school.ownerUrl, { max: 1 }).withoutPlugins()
  expect((await printTables(db as never)).trimEnd()).toBe(readFileSync('src/db/tables.ts', 'utf8').trimEnd())
  await db.destroy()
  expect(printRights().trimEnd()).toBe(readFileSync('docs/rights.md', 'utf8').trimEnd())
})
