// The findings of an assessment that everybody at a school has answered. Prints JSON.
import { sql } from 'kysely'
import pg from 'pg'
import { v7 as uuid } from 'uuid'
import { queries } from '@/server/registry'
import { queriesSent } from '@/server/platform/database'
import { executeQuery } from '@/server/platform/run'
import { actor, inSchool, schoolId } from './at-school'

/** As many as the largest assessment has. */
const wanted = 1500

/** Forty questions with four choices, given to one class of each student, and answered by all. */
const assessmentId = uuid()
const students = await inSchool(async (tx) => {
  await sql`select set_config('kedge.history', 'off', true)`.execute(tx)
  const of = sql`${schoolId}::uuid, ${assessmentId}::uuid`
  const run = (statement: ReturnType<typeof sql>) => statement.execute(tx)
  await run(sql`insert into assessment (school_id, id, name, subject_id, owner_id)
    select ${of}, 'Everybody', (select min(id::text)::uuid from subject), (select min(id::text)::uuid from staff_member)`)
  await run(sql`insert into form (school_id, assessment_id, id) values (${of}, ${assessmentId})`)
  await run(sql`insert into sitting (school_id, assessment_id, id, form_id, given_on, given_by)
    select ${of}, ${assessmentId}, ${assessmentId}, max(lower(m.period)), (select min(id::text)::uuid from staff_member) from class_member m`)
  await run(sql`insert into sitting_class (school_id, assessment_id, sitting_id, class_id)
    select distinct ${of}, ${assessmentId}::uuid, first.class_id from (select distinct on (m.student_id) m.class_id from class_member m, sitting i
      where i.assessment_id = ${assessmentId} and m.period @> i.given_on order by m.student_id, m.class_id) first`)
  // Where a school is smaller, others sit in one of the classes.
  await run(sql`with missing as (select gen_random_uuid() as id, n from generate_series(1, ${wanted} - (select count(distinct m.student_id)
      from sitting i join sitting_class c on c.assessment_id = i.assessment_id join class_member m on m.class_id = c.class_id and m.period @> i.given_on
      where i.assessment_id = ${assessmentId})) n),
    made as (insert into student (school_id, id, legal_given_name, legal_family_name, sort_name, birth_date)
      select ${schoolId}::uuid, id, 'Guest', n::text, n || ', Guest', '2012-03-01' from missing returning id)
    insert into class_member (school_id, class_id, student_id, period)
      select ${schoolId}::uuid, c.class_id, made.id, daterange(i.given_on, null) from made, sitting i,
        lateral (select class_id from sitting_class where assessment_id = i.assessment_id order by class_id limit 1) c
      where i.assessment_id = ${assessmentId}`)
  await run(
    sql`insert into key_version (school_id, assessment_id, number, made_by) values (${of}, 1, 'Kedge')`,
  )
  await run(sql`insert into assessment_level (school_id, assessment_id, position, name, from_percent)
    values (${of}, 1, 'secure', 80), (${of}, 2, 'not yet', null)`)
  await run(sql`insert into question (school_id, assessment_id, id, position, kind)
    select ${of}, gen_random_uuid(), n, 'one choice' from generate_series(1, 40) n`)
  await run(sql`insert into question_key (school_id, assessment_id, question_id, from_version, content, points)
    select school_id, assessment_id, id, 1, '{"choices": ["A", "B", "C", "D"], "right": "B"}', 1 from question where assessment_id = ${assessmentId}`)
  await run(sql`insert into attempt (school_id, assessment_id, student_id, state, changed_by)
    select distinct ${of}, m.student_id, 'handed in', 'Kedge' from sitting i join sitting_class c on c.assessment_id = i.assessment_id
    join class_member m on m.class_id = c.class_id and m.period @> i.given_on where i.assessment_id = ${assessmentId} limit ${wanted}`)
  await run(sql`insert into response (school_id, assessment_id, student_id, question_id, value)
    select ${of}, a.student_id, q.id, to_jsonb(chr(65 + (q.position * 7 + ascii(right(a.student_id::text, 1))) % 4))
    from attempt a, question q where a.assessment_id = ${assessmentId} and q.assessment_id = ${assessmentId}`)
  await run(sql`insert into response_points (school_id, assessment_id, student_id, question_id, source, points, key_version)
    select school_id, assessment_id, student_id, question_id, 'key', case when value = '"B"' then 1 else 0 end, 1
    from response where assessment_id = ${assessmentId}`)
  const { rows } = await sql<{
    n: number
  }>`select count(*)::int as n from attempt where assessment_id = ${assessmentId}`.execute(tx)
  return rows[0]?.n ?? 0
})
// As it is a minute later, when the database has looked at what came in.
const owner = new pg.Client({ connectionString: process.env.DATABASE_OWNER_URL })
await owner.connect()
await owner.query('analyze student, class_member, attempt, response, response_points')
await owner.end()
const findings = queries.get('assessment.findings')
if (!findings) throw new Error('there are findings')
const own: number[] = []
const bare: number[] = []
let statements = 0
for (let n = 0; n < 25; n++) {
  const before = queriesSent()
  const from = performance.now()
  const result = await executeQuery(findings as never, actor, { assessmentId })
  if (!result.ok) throw new Error('the findings were not answered')
  if (n > 4) own.push(performance.now() - from)
  statements = queriesSent() - before
  const began = performance.now()
  await inSchool(async (tx) => {
    await sql`select student_id, question_id, value from response where assessment_id = ${assessmentId}`.execute(
      tx,
    )
    await sql`select student_id, question_id, points from response_points where assessment_id = ${assessmentId}`.execute(
      tx,
    )
  })
  if (n > 4) bare.push(performance.now() - began)
}
// What was made for it does not stay: guests are enrolled nowhere, and no rule of a school holds for them.
await inSchool(async (tx) => {
  await sql`select set_config('kedge.history', 'off', true)`.execute(tx)
  for (const table of [
    ...[
      'response_points',
      'response',
      'attempt',
      'question_key',
      'question',
      'assessment_level',
      'key_version',
    ],
    ...['sitting_class', 'sitting', 'form'],
  ])
    await sql`delete from ${sql.table(table)} where assessment_id = ${assessmentId}`.execute(tx)
  await sql`delete from assessment where id = ${assessmentId}`.execute(tx)
  await sql`delete from class_member m using student s where s.id = m.student_id and s.legal_given_name = 'Guest'`.execute(
    tx,
  )
  await sql`delete from student where legal_given_name = 'Guest'`.execute(tx)
})
console.log(JSON.stringify({ students, own, bare, statements }))
process.exit(0)
