import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { dayWithin, type CivilDate } from '@/core/calendar/school-year'
import { marksActs, type MarksAct, type MarksPeriod, type MarksState } from '@/core/marks/periods/state'
import { changedMeanwhile } from '@/server/platform/failure'
import type { Context } from '@/server/platform/context'
import { membersOf } from '@/server/school/members'
import { gradebookTopic, marksStatesTopic } from './load-gradebooks'
import { markItself, marksOf } from './marks-of'
import { refuse } from './messages'

/** A part of the year with its first and last day, and what it is called. */
export interface PeriodSpan {
  readonly name: string
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
}

/** The days of a part of the year in which a class is taught; refused for one it is not taught in. */
export async function spanOf(
  { db }: Pick<Context, 'db'>,
  classId: string,
  { termId, periodId }: MarksPeriod,
): Promise<PeriodSpan> {
  const { rows } = await sql<PeriodSpan>`
    select coalesce(p.name, t.name, y.name) as name, coalesce(p.first_day, t.first_day, y.first_day)::text as first_day,
      coalesce(p.last_day, t.last_day, y.last_day)::text as last_day
    from class c join academic_year y on y.school_id = c.school_id and y.id = c.year_id
    left join class_term ct on ct.school_id = c.school_id and ct.class_id = c.id and ct.term_id = ${termId}::uuid
    left join term t on t.school_id = ct.school_id and t.id = ct.term_id
    left join term_period p on p.school_id = t.school_id and p.term_id = t.id and p.id = ${periodId}::uuid and p.kind = 'marking'
    where c.id = ${classId} and (${termId}::uuid is null or t.id is not null) and (${periodId}::uuid is null or p.id is not null)`.execute(
    db,
  )
  const [span] = rows
  if (!span) throw refuse('periodOfOther', {})
  return span
}

/** Waits for whoever writes marks of the class, so that nothing is written under what is about to be closed. */
const waitForWriters = ({ db }: Context, classId: string) =>
  sql`select pg_advisory_xact_lock(hashtextextended('marks ' || ${classId}::uuid::text, 3))`.execute(db)

interface Moved {
  readonly id: string
  readonly state: MarksState
  readonly version: number
}

interface Asked {
  readonly classId: string
  readonly period: MarksPeriod
  readonly expectedVersion: number
}

/**
 * Moves the marks of a class in one part of the year along their path. Refused from a state the act does not start in,
 * and where somebody else has moved them since they were seen.
 */
export async function moveMarks(
  context: Context,
  { classId, period, expectedVersion }: Asked,
  act: MarksAct,
  reason: string | null = null,
): Promise<Moved> {
  const { db, actor, now } = context
  const { from, to } = marksActs[act]
  await waitForWriters(context, classId)
  const kept = await db
    .selectFrom('classMarks')
    .select(['id', 'state', 'version', 'changedBy'])
    .where('classId', '=', classId)
    .where('termId', 'is not distinct from', period.termId)
    .where('periodId', 'is not distinct from', period.periodId)
    .forUpdate()
    .executeTakeFirst()
  if ((kept?.version ?? 0) !== expectedVersion)
    throw changedMeanwhile('the state of these marks', [
      {
        key: { classId },
        value: kept?.state ?? null,
        version: kept?.version ?? 0,
        by: kept?.changedBy ?? '',
      },
    ])
  const state = kept?.state ?? 'open'
  if (!from.includes(state)) throw refuse('marksState', { state })
  const traces = { state: to, reason, changedBy: actor.name, changedAt: now }
  const written = kept
    ? await db
        .updateTable('classMarks')
        .set(traces)
        .where('id', '=', kept.id)
        .returning(['id', 'version'])
        .executeTakeFirstOrThrow()
    : await db
        .insertInto('classMarks')
        .values({ schoolId: actor.schoolId, id: uuid(), classId, ...period, ...traces })
        .returning(['id', 'version'])
        .executeTakeFirstOrThrow()
  context.changed(gradebookTopic(classId), marksStatesTopic())
  return { ...written, state: to }
}

/** Keeps what every student of the class has now: the mark of the period and each column, with how it came about. */
export async function keepValues(
  context: Pick<Context, 'db' | 'today'> & { readonly actor: { readonly schoolId: string } },
  marksId: string,
  { classId, period }: Pick<Asked, 'classId' | 'period'>,
): Promise<void> {
  const { db, actor, today } = context
  const span = await spanOf(context, classId, period)
  const [marks, students] = await Promise.all([
    marksOf(context, [classId], period, 'always'),
    membersOf(context, classId, dayWithin(span, today)),
  ])
  const own = marks.get(classId)
  if (!own) throw new Error('marks are answered for every class asked')
  const sources = [...(own.hasMark ? [markItself] : []), ...own.columns.map((c) => c.id)]
  if (sources.length === 0) throw refuse('nothingToConfirm', {})
  const rows = students.flatMap((student) =>
    sources.map((source) => {
      const { exact, mark = null, grade = null } = own.nowOf(student, source)
      return {
        student: student.id,
        source,
        column: source === markItself ? null : source,
        num: exact ? String(exact.num) : null,
        den: exact ? String(exact.den) : null,
        mark,
        grade,
        explanation: own.explainNow(student, source),
      }
    }),
  )
  await sql`
    insert into held_mark as h (school_id, marks_id, student_id, source, column_id, num, den, mark, grade, explanation, rules_version)
    select ${actor.schoolId}, ${marksId}, r.student, r.source, r."column", r.num, r.den, r.mark, r.grade, r.explanation, ${own.rulesVersion}
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
      as r(student uuid, source text, "column" uuid, num numeric, den numeric, mark text, grade text, explanation jsonb)
    on conflict (school_id, marks_id, student_id, source) do update set num = excluded.num, den = excluded.den, mark = excluded.mark,
      grade = excluded.grade, explanation = excluded.explanation, rules_version = excluded.rules_version`.execute(
    db,
  )
}

/** Confirms the marks of a class: what everybody has now is held from here on. */
export async function holdMarks(context: Context, asked: Asked): Promise<Moved> {
  const moved = await moveMarks(context, asked, 'confirm')
  await keepValues(context, moved.id, asked)
  return moved
}

/** Lets marks follow the gradebook again. */
export async function letGoOfMarks(context: Context, asked: Asked): Promise<Moved> {
  const moved = await moveMarks(context, asked, 'take back')
  await context.db.deleteFrom('heldMark').where('marksId', '=', moved.id).execute()
  return moved
}

/** How the marks of a class stand in one part of the year; open with version 0 where nobody has confirmed them yet. */
export async function stateOfMarks(
  { db }: Context,
  classId: string,
  { termId, periodId }: MarksPeriod,
): Promise<{ readonly state: MarksState; readonly version: number }> {
  const kept = await db
    .selectFrom('classMarks')
    .select(['state', 'version'])
    .where('classId', '=', classId)
    .where('termId', 'is not distinct from', termId)
    .where('periodId', 'is not distinct from', periodId)
    .executeTakeFirst()
  return kept ?? { state: 'open', version: 0 }
}
