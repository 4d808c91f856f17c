// Searching while typing, and carrying classes forward, inside the server and against the bare SQL. Prints JSON.
import { sql } from 'kysely'
import { commands, queries } from '@/server/registry'
import { queriesSent } from '@/server/platform/database'
import { executeQuery, preview, executeCommand } from '@/server/platform/run'
import { actor, db, inSchool, schoolId } from './at-school'

const value = <T>(result: { ok: boolean; value?: T; failure?: { message: string } }): T => {
  if (!result.ok) throw new Error(result.failure?.message)
  return result.value as T
}
async function timed(work: () => Promise<unknown>): Promise<number> {
  const from = performance.now()
  await work()
  return performance.now() - from
}

/** Takes a transaction back. */
class Undone extends Error {}

/** What somebody has typed after each key, of the names of some students. */
const typed = await inSchool(async (tx) => {
  const { rows } = await sql<{ name: string }>`
    select split_part(sort_name, ',', 1) as name from student where school_id = ${schoolId} order by id limit 40`.execute(
    tx,
  )
  return rows.flatMap(({ name }) =>
    Array.from({ length: Math.min(6, name.length) }, (_, i) => name.slice(0, i + 1)),
  )
})
const anything = queries.get('find.anything')
if (!anything) throw new Error('there is a find box')
const search: number[] = []
const bareSearch: number[] = []
for (const text of [...typed.slice(0, 20), ...typed]) {
  const took = await timed(async () => value(await executeQuery(anything as never, actor, { text })))
  const bare = await timed(() =>
    inSchool((tx) =>
      sql`select id, sort_name from student where school_id = ${schoolId} and lower(sort_name) like ${`%${text.toLowerCase()}%`} order by sort_name limit 8`.execute(
        tx,
      ),
    ),
  )
  search.push(took)
  bareSearch.push(bare)
}

/** The year's half-days of the whole school, beside one bare count of its marks by code. */
const figures: number[] = []
const bareFigures: number[] = []
const year = await inSchool(async (tx) => {
  const { rows } = await sql<{ firstDay: string; lastDay: string; date: string; marks: number }>`
    select y.first_day::text, y.last_day::text, max(m.session_date)::text as date, count(*)::int as marks
    from academic_year y join attendance_mark m on m.school_id = y.school_id and m.session_date between y.first_day and y.last_day
    where y.school_id = ${schoolId} group by y.id, y.first_day, y.last_day order by 4 desc limit 1`.execute(
    tx,
  )
  return rows[0]
})
if (!year) throw new Error('the school has marks')
const asked = {
  kind: 'school',
  id: null,
  from: year.firstDay,
  to: year.lastDay,
  date: year.date,
  sessions: 'half-days',
}
for (let n = 0; n < 8; n++) {
  figures.push(
    await timed(async () =>
      value(await executeQuery(queries.get('attendance.figures') as never, actor, asked)),
    ),
  )
  bareFigures.push(
    await timed(() =>
      inSchool((tx) =>
        sql`select code_id, count(*) from attendance_mark where school_id = ${schoolId}
          and session_date between ${year.firstDay} and ${year.lastDay} and homeroom_id is not null group by code_id`.execute(
          tx,
        ),
      ),
    ),
  )
}

/** The terms in their order, each with whether classes run in it. */
const termsNow = () =>
  inSchool(async (tx) => {
    const { rows } = await sql<{
      id: string
      yearId: string
      lastDay: string
      firstDay: string
      used: boolean
    }>`
      select t.id, t.year_id, t.first_day, t.last_day, exists (select 1 from class_term c where c.term_id = t.id) as used
      from term t where t.school_id = ${schoolId} order by t.first_day`.execute(tx)
    return rows
  })
let terms = await termsNow()
const last = terms.findLastIndex((t) => t.used)
const from = terms[last]
if (!from) throw new Error('the school has classes')
if (!terms[last + 1]) {
  const next = Number(from.lastDay.slice(0, 4))
  const firstDay = `${next}-09-01`
  const lastDay = `${next + 1}-07-16`
  const created = await executeCommand(commands.get('year.create') as never, actor, {
    name: `${next}/${String(next + 1).slice(2)}`,
    firstDay,
    lastDay,
    weekdays: [1, 2, 3, 4, 5],
    terms: [{ name: 'Autumn', firstDay, lastDay: `${next}-12-18` }],
  })
  value(created)
  terms = await termsNow()
}
const to = terms[last + 1]
if (!to) throw new Error('there is a next term')
const plan = value<{ classes: { classId: string }[] }>(
  (await executeQuery(queries.get('carry.plan') as never, actor, { termId: from.id })) as never,
)
const input = {
  fromTermId: from.id,
  toTermId: to.id,
  classIds: plan.classes.map((c) => c.classId),
  withStudents: true,
}
const command = commands.get('carry.forward')
const carried: number[] = []
const statements: number[] = []
for (let n = 0; n < 4; n++) {
  const before = queriesSent()
  carried.push(
    await timed(async () =>
      value((await preview(command as never, actor, input, () => Promise.resolve([]))) as never),
    ),
  )
  statements.push(queriesSent() - before)
}
/** The same rows by plain statements, rolled back. */
const bareCarry: number[] = []
for (let n = 0; n < 4; n++)
  bareCarry.push(
    await timed(() =>
      inSchool(async (tx) => {
        await sql`create temp table pair on commit drop as
          select class_id as old_id, gen_random_uuid() as new_id from class_term where term_id = ${from.id}`.execute(
          tx,
        )
        await sql`insert into class (school_id, id, year_id, course_id, scale_id, name)
          select c.school_id, p.new_id, ${to.yearId}, c.course_id, c.scale_id, c.name from pair p join class c on c.id = p.old_id`.execute(
          tx,
        )
        await sql`insert into class_term (school_id, class_id, term_id) select ${schoolId}, new_id, ${to.id} from pair`.execute(
          tx,
        )
        await sql`insert into class_teacher (school_id, class_id, staff_id, period)
          select distinct t.school_id, p.new_id, t.staff_id, daterange(${to.firstDay}::date, null) from pair p join class_teacher t on t.class_id = p.old_id`.execute(
          tx,
        )
        await sql`insert into gradebook (school_id, class_id, term_id)
          select school_id, new_id, ${to.id} from pair p join gradebook g on g.class_id = p.old_id and g.term_id = ${from.id}`.execute(
          tx,
        )
        await sql`insert into category (school_id, id, class_id, term_id, name, weight, drop_lowest, position)
          select c.school_id, gen_random_uuid(), p.new_id, ${to.id}, c.name, c.weight, c.drop_lowest, c.position
          from pair p join category c on c.class_id = p.old_id and c.term_id = ${from.id}`.execute(tx)
        await sql`insert into class_member (school_id, class_id, student_id, period)
          select m.school_id, p.new_id, m.student_id, daterange(${to.firstDay}::date, null) from pair p join class_member m on m.class_id = p.old_id
          where exists (select 1 from enrolment e where e.student_id = m.student_id and e.period @> ${to.firstDay}::date)`.execute(
          tx,
        )
        throw new Undone()
      }).catch((error: unknown) => {
        if (!(error instanceof Undone)) throw error
      }),
    ),
  )

console.log(
  JSON.stringify({
    search: search.slice(20),
    bareSearch: bareSearch.slice(20),
    marks: year.marks,
    figures: figures.slice(2),
    bareFigures: bareFigures.slice(2),
    classes: input.classIds.length,
    carried: carried.slice(1),
    bareCarry: bareCarry.slice(1),
    statements: statements.at(-1),
  }),
)
await db.destroy()
