import { snakeCase } from '@/db/names'
import type { Random } from '@/demo/random'
import type { TestSchool } from '../integration/school'

/** What the inputs of a walk are drawn from: a small corner of the school, so that its acts meet. */
export interface World {
  readonly dates: readonly string[]
  /** An identifier for a field of this name; now and then one of nothing. */
  readonly idFor: (field: string, random: Random, scope: Readonly<Record<string, unknown>>) => string
  /** The terms in their order, those of the next year too. */
  readonly terms: readonly string[]
  /** A lesson of the week, by its class, day and period. */
  readonly lesson: (random: Random) => {
    readonly classId: string
    readonly date: string
    readonly period: number
  }
  /** The attendance codes in use. */
  readonly codes: readonly string[]
  /** The version of a record that somebody has open. */
  readonly versionOf: (id: unknown) => number
}

/** The table that a field's identifier is of, where its name does not say so. */
const tableOf: Readonly<Record<string, string>> = {
  codeId: 'attendance_code',
  plannedId: 'planned_absence',
  reportId: 'absence_report',
  setId: 'attendance_code_set',
  groupId: 'analysis_group',
  scaleId: 'grading_scale',
  roundId: 'report_round',
  periodId: 'term_period',
  yearId: 'academic_year',
  staffId: 'staff_member',
  successorId: 'staff_member',
  keepId: 'student',
  dropId: 'student',
  templateId: 'letter_template',
  partId: 'subject',
  fromTermId: 'term',
  toTermId: 'term',
  notADuplicateOf: 'student',
}

const tableFor = (field: string) => tableOf[field] ?? snakeCase(field.replace(/Id$/, ''))

/** Two homerooms, their classes and a few of their students; of everything else, the first few. */
const corner: Readonly<Record<string, string>> = {
  homeroom: "select id from homeroom where name in ('7 Tern', '7 Plover', '7 Skua')",
  class: `select id from class where name = '7 Mathematics B' union select t.class_id from class_teacher t
    join staff_member s on s.id = t.staff_id where s.sort_name = 'Achterberg, Remi' and upper_inf(t.period)`,
  academic_year: "select id from academic_year where first_day = '2026-09-01'",
  term: "select id from term where first_day between '2026-09-01' and '2028-08-31'",
  student: `select * from (select distinct s.id from student s join homeroom_member m on m.student_id = s.id
    join homeroom h on h.id = m.homeroom_id where h.name in ('7 Tern', '7 Plover') order by s.id limit 9) s
    union select id from student where number is null
    union (select id from student where merged_into is null and number is not null and not exists (
      select 1 from enrolment e where e.student_id = student.id and upper_inf(e.period)) limit 2)`,
  guardian: `select g.id from guardian g join guardianship r on r.guardian_id = g.id join homeroom_member m on m.student_id = r.student_id
    join homeroom h on h.id = m.homeroom_id where h.name = '7 Tern' order by 1 limit 6`,
  staff_member:
    "select id from staff_member where sort_name in ('Achterberg, Remi', 'Tulloch, Hana') union (select id from staff_member order by id desc limit 3)",
  assignment: `select a.id from assignment a join class c on c.id = a.class_id
    where c.name in ('7 Science A', '7 Mathematics B') order by 1`,
  category:
    "select a.id from category a join class c on c.id = a.class_id where c.name in ('7 Science A', '7 Mathematics B')",
}

/** What belongs to something that was drawn before it: pairs of that and its own. */
const belongings: readonly (readonly [field: string, to: string, statement: string])[] = [
  [
    'studentId',
    'homeroomId',
    'select homeroom_id as of, student_id as id from homeroom_member where upper_inf(period)',
  ],
  [
    'studentId',
    'classId',
    'select class_id as of, student_id as id from class_member where upper_inf(period)',
  ],
  [
    'studentId',
    'assignmentId',
    'select a.id as of, m.student_id as id from assignment a join class_member m on m.class_id = a.class_id where upper_inf(m.period)',
  ],
  [
    'studentId',
    'assessmentId',
    'select a.assessment_id as of, m.student_id as id from sitting_class a join class_member m on m.class_id = a.class_id where upper_inf(m.period)',
  ],
  ['assignmentId', 'classId', 'select class_id as of, id from assignment where assessment_id is null'],
  ['categoryId', 'classId', 'select class_id as of, id from category'],
  ['guardianId', 'studentId', 'select student_id as of, guardian_id as id from guardianship'],
  ['plannedId', 'studentId', 'select student_id as of, id from planned_absence'],
  ['termId', 'yearId', 'select year_id as of, id from term'],
]

const nothing = '00000000-0000-7000-8000-0000000dead0'

/** Looks at what there is just now. */
export async function lookAround(school: TestSchool): Promise<World> {
  const tables = await school.rows<{ name: string }>(`
    select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
    join pg_attribute a on a.attrelid = c.oid and a.attname = 'id' and a.atttypid = 'uuid'::regtype
    where n.nspname = 'public' and c.relkind = 'r' order by 1`)
  const ids = new Map<string, readonly string[]>()
  for (const { name } of tables) {
    const rows = await school.rows<{ id: string }>(
      `select id from (${corner[name] ?? `(select id from ${name} order by id limit 3) union (select id from ${name} order by id desc limit 3)`}) x order by id`,
    )
    ids.set(
      name,
      rows.map((row) => row.id),
    )
  }
  const versions = new Map<string, number>()
  const versioned = await school.rows<{ name: string }>(`
    select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
    where c.relkind = 'r' and (select count(*) from pg_attribute a where a.attrelid = c.oid and a.attname in ('id', 'version')) = 2`)
  for (const { name } of versioned)
    for (const { id, version } of await school.rows<{ id: string; version: number }>(
      `select id, ${name === 'student' ? 'roll_version' : 'version'} as version from ${name} where id = any($1)`,
      [ids.get(name) ?? []],
    ))
      versions.set(id, version)
  const held = new Map<string, string[]>()
  for (const [field, to, statement] of belongings)
    for (const { of, id } of await school.rows<{ of: string; id: string }>(
      `select * from (${statement}) x where of = any($1) order by 1, 2`,
      [ids.get(tableFor(to)) ?? []],
    )) {
      const key = `${field} of ${to} ${of}`
      held.set(key, [...(held.get(key) ?? []), id])
    }
  const codes = (
    await school.rows<{ id: string }>(
      "select c.id from attendance_code c join attendance_code_set s on s.id = c.set_id where '2026-11-23' between s.first_day and coalesce(s.last_day, 'infinity') order by c.code",
    )
  ).map((row) => row.id)
  const terms = await school.rows<{ id: string }>(
    "select id from term where first_day >= '2026-09-01' order by first_day",
  )
  const lessons = await school.rows<{ classId: string; cycleDay: number; period: number }>(`
    select l.class_id as "classId", l.cycle_day as "cycleDay", l.period from lesson l join timetable t on t.id = l.timetable_id
    where t.cycle = 'week' and '2026-11-23' between t.first_day and coalesce(t.last_day, 'infinity')
      and l.days @> date '2026-11-23' and l.class_id in (${corner.class}) order by 1, 2, 3`)
  const days = await school.rows<{ day: string }>(`
    select distinct day::text as day from (
      select unnest(array[first_day - 1, first_day, last_day, last_day + 1]) as day from (
        select first_day, last_day from academic_year union select first_day, last_day from term
        union (select first_day, last_day from closure order by first_day limit 4)) s where first_day between '2026-09-01' and '2027-08-31'
      union select unnest(array['2026-11-23', '2026-11-24', '2026-11-20', '2026-11-22', '2026-11-16', '2026-12-01', '2026-10-12', '2014-03-09']::date[])) d
    order by 1`)
  return {
    dates: [
      ...days.map((d) => d.day),
      // Where most work is done.
      ...Array.from({ length: 12 }, () => '2026-11-23'),
      ...Array.from({ length: 6 }, () => '2026-11-20'),
    ],
    codes,
    terms: terms.map(({ id }) => id),
    lesson: (random) => {
      // Somebody may have removed them all.
      const lesson = lessons.length > 0 ? random.pick(lessons) : { classId: nothing, cycleDay: 1, period: 1 }
      return { classId: lesson.classId, period: lesson.period, date: `2026-11-${22 + lesson.cycleDay}` }
    },
    versionOf: (id) => versions.get(String(id)) ?? 0,
    idFor: (field, random, scope) => {
      const [, to] = belongings.find(([name, of]) => name === field && typeof scope[of] === 'string') ?? []
      const kin = to && held.get(`${field} of ${to} ${String(scope[to])}`)
      if (kin && random.below(6) > 0) return random.pick(kin)
      if (field === 'codeId' && random.below(8) > 0) return random.pick(codes)
      const own = ids.get(tableFor(field)) ?? []
      if (own.length === 0 || random.below(40) === 0) return nothing
      return random.pick(own)
    },
  }
}
