import { sql, type RawBuilder } from 'kysely'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { dayKind } from '@/core/calendar/school-year'
import { lessonInput } from '@/core/timetable/inputs'
import { halfOf, lessonBegun } from '@/core/timetable/timetable'
import { localTime } from '@/server/platform/clock'
import { allOf } from '@/server/platform/checks'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { id, optionalLine } from '@/core/inputs'
import { defineWrite, type Written } from '@/server/platform/write'
import { loadYear } from '@/server/school/load-year'
import { holdStill } from '@/server/school/one-at-a-time'
import { homeroomTopic, lessonTopic, lessonsTopic, registersTopic } from '@/server/school/topics'
import { lessonsOnDay } from '@/server/timetable'
import { codesOn } from './codes-on'
import { knownInLesson } from './known-in-lesson'
import { plannedOn } from './planned'
import { markLesson, markRegister, watchRegisters } from './rights'
import { classRollOn, rollOn, sessionInput, type LessonInput, type RollRow, type SessionInput } from './roll'
import { refuse, refuseField } from './messages'

type Cells = readonly { readonly expectedVersion: number }[]

/** Whether marks kept from before are changed, of a session that does not take place any more: only the office does. */
const changesKept = async (context: Context, cells: Cells): Promise<boolean> =>
  cells.length > 0 &&
  cells.every((cell) => cell.expectedVersion > 0) &&
  (await context.may(watchRegisters, {}))

/** Refuses a session that does not exist or has not begun; a mark is never entered ahead. */
async function checkSession(context: Context, { date }: SessionInput, cells: Cells = []) {
  const year = await loadYear(context.db, date)
  if (date > context.today) throw refuse('future', { date })
  if (year && dayKind(year, date).kind === 'school day') return
  if (!(await changesKept(context, cells))) throw refuse('noSession', { date })
}

/** Whether the marks of a lesson that no longer takes place are changed by the office. */
async function isKept(context: Context, { classId, date, session }: LessonInput, cells: Cells) {
  const kept = await context.db
    .selectFrom('attendanceMark')
    .select('kept')
    .where('classId', '=', classId)
    .where('sessionDate', '=', date)
    .where('session', '=', session)
    .where('kept', '=', true)
    .limit(1)
    .executeTakeFirst()
  return kept !== undefined && changesKept(context, cells)
}

async function checkLesson(context: Context, { classId, date, session }: LessonInput) {
  if (date > context.today) throw refuse('future', { date })
  const { lessons } = await lessonsOnDay(context, date, { classId })
  const lesson = lessons.find((l) => l.classId === classId && String(l.period) === session)
  if (!lesson) throw refuse('noLesson', { date, period: session })
  if (lesson.cancelled) throw refuse('lessonCancelled', { date, period: session })
  if (date === context.today && !lessonBegun(lesson, localTime(context.actor.timeZone).time))
    throw refuse('lessonToCome', { starts: lesson.starts })
  return lesson
}

/** Codes in use on a date by id, and those of them that the actor may enter. */
async function codesFor(context: Context, date: string) {
  const [codes, office] = await Promise.all([codesOn(context, date), context.may(watchRegisters, {})])
  return {
    all: new Map(codes.map((code) => [code.id, code])),
    usable: new Set(codes.filter((c) => office || !c.officeOnly).map((code) => code.id)),
  }
}

/** The codes that some marks of a session have now, by student. */
async function savedCodes(
  { db }: Context,
  { date, session }: { readonly date: string; readonly session: string },
  cells: readonly { readonly key: { readonly studentId: string } }[],
): Promise<ReadonlyMap<string, string | null>> {
  const rows = await db
    .selectFrom('attendanceMark')
    .select(['studentId', 'codeId'])
    .where(
      'studentId',
      'in',
      cells.map((cell) => cell.key.studentId),
    )
    .where('sessionDate', '=', date)
    .where('session', '=', session)
    .execute()
  return new Map(rows.map((row) => [row.studentId, row.codeId]))
}

const mark = z.object({
  codeId: id.nullable(),
  minutesLate: z
    .number()
    .int('Minutes late must be a whole number.')
    .min(0, 'Minutes late must be 0 or more.')
    .max(limits.minutesLate, `Minutes late must be at most ${limits.minutesLate}.`)
    .nullable(),
  note: optionalLine('the note'),
})
type MarkValue = z.infer<typeof mark>

const topics = (_context: Context, { homeroomId }: SessionInput) => [
  homeroomTopic(homeroomId),
  registersTopic(),
]
const lessonTopics = (_context: Context, { classId }: LessonInput) => [lessonTopic(classId), lessonsTopic()]

/** What a mark is saved as, in a half-day and in a lesson. */
const marks = {
  table: 'attendanceMark',
  what: 'this mark',
  key: z.object({ studentId: id }),
  value: mark as unknown as z.ZodType<MarkValue>,
  keyColumns: (
    { date, session }: { date: string; session: string },
    { studentId }: { studentId: string },
  ) => ({
    studentId,
    sessionDate: date,
    session,
  }),
  keyOf: (row: Record<string, unknown>) => ({ studentId: row.studentId as string }),
  valueOf: (row: Record<string, unknown>) => ({
    codeId: row.codeId as string | null,
    minutesLate: row.minutesLate as number | null,
    note: row.note as string | null,
  }),
} as const

/** Refuses marks with a code not in use, minutes without being late, and students who are not on the roll. */
async function checkMarks(
  context: Context,
  session: { readonly date: string; readonly session: string },
  roll: RawBuilder<RollRow>,
  cells: readonly { readonly key: { readonly studentId: string }; readonly value: MarkValue }[],
) {
  const { date } = session
  const [, { all, usable }, { rows }, saved] = await Promise.all([
    holdStill(context, 'attendanceCodeSet'),
    codesFor(context, date),
    roll.execute(context.db),
    savedCodes(context, session, cells),
  ])
  const onRoll = new Set(rows.map((r) => r.id))
  for (const { key, value } of cells) {
    const code = value.codeId === null ? undefined : all.get(value.codeId)
    // What the office entered stays; a note on it is anybody's.
    const may = code && (usable.has(code.id) || saved.get(key.studentId) === code.id)
    if (value.codeId !== null && !may) throw refuseField('codeId', 'codeNotInUse', { date })
    if (value.minutesLate !== null && code?.meaning !== 'late')
      throw refuseField('minutesLate', 'minutesWithoutLate', {})
    if (!onRoll.has(key.studentId)) throw refuse('notOnRoll', { date })
  }
}

/** Sets or clears students' marks for a half-day. */
export const setMarks = defineWrite<SessionInput, { studentId: string }, MarkValue>({
  ...marks,
  scope: sessionInput,
  right: markRegister,
  columns: (value, { homeroomId }) => ({ homeroomId, classId: null, ...value, reason: null }),
  check: (context, session, cells) =>
    allOf(
      checkSession(context, session, cells),
      checkMarks(context, session, rollOn(session.homeroomId, session.date), cells),
    ),
  topics,
})

/** Sets or clears students' marks for a lesson. */
export const setLessonMarks = defineWrite<LessonInput, { studentId: string }, MarkValue>({
  ...marks,
  scope: lessonInput,
  right: markLesson,
  columns: (value, { classId }) => ({ homeroomId: null, classId, ...value, reason: null }),
  check: (context, lesson, cells) =>
    allOf(
      isKept(context, lesson, cells).then((kept) => (kept ? undefined : checkLesson(context, lesson))),
      checkMarks(context, lesson, classRollOn(lesson.classId, lesson.date), cells),
    ),
  topics: lessonTopics,
})

/** Gives everyone on a roll who has no mark yet the same one, or the code of what is known of the student already. */
async function fillIn(
  context: Context,
  asked: { readonly date: string; readonly session: string; readonly codeId: string },
  place: { readonly homeroomId: string | null; readonly classId: string | null },
  roll: RawBuilder<RollRow>,
  known: RawBuilder<{ studentId: string; codeId: string }>,
): Promise<readonly Written<{ studentId: string }>[]> {
  const { db, actor } = context
  const [, { usable }] = await Promise.all([
    holdStill(context, 'attendanceCodeSet'),
    codesFor(context, asked.date),
  ])
  if (!usable.has(asked.codeId)) throw refuseField('codeId', 'codeNotInUse', { date: asked.date })
  const { rows } = await sql<{ studentId: string; version: number }>`
    insert into attendance_mark as m (school_id, student_id, session_date, session, homeroom_id, class_id, code_id, changed_by, changed_at)
    select ${actor.schoolId}, r.id, ${asked.date}, ${asked.session}, ${place.homeroomId}::uuid, ${place.classId}::uuid,
      coalesce(p.code_id, ${asked.codeId}::uuid), ${actor.name}, ${context.now}
    from (${roll}) r
    left join (${known}) p on p.student_id = r.id
    where not r.expected
    on conflict (school_id, student_id, session_date, session)
      do update set code_id = excluded.code_id, homeroom_id = excluded.homeroom_id, class_id = excluded.class_id,
        changed_by = excluded.changed_by, changed_at = excluded.changed_at
      where m.code_id is null
    returning student_id, version`.execute(db)
  return rows.map(({ studentId, version }) => ({ key: { studentId }, version }))
}

/**
 * Gives everyone on roll who has no mark yet the same one; whose absence is planned, its code. Marks that exist are kept.
 * @returns who was marked
 */
export const markRest = defineCommand({
  input: sessionInput.extend({ codeId: id }),
  right: markRegister,
  needsNoVersion: 'only where there is no mark',
  undo: {
    days: 1,
    whenChangedSince: 'leave',
    topics: ({ homeroomId }: SessionInput) => [homeroomTopic(homeroomId), registersTopic()],
  },
  run: async (context, asked) => {
    const { homeroomId, date, session } = asked
    await checkSession(context, asked)
    const place = { homeroomId, classId: null }
    const roll = rollOn(homeroomId, date)
    const marked = await fillIn(context, asked, place, roll, plannedOn(date, session))
    if (marked.length > 0) context.changed(...topics(context, asked))
    return marked
  },
})

/** The same in a lesson, where a mark of the half-day that says why a student is away is known, too. */
export const markLessonRest = defineCommand({
  input: lessonInput.extend({ codeId: id }),
  right: markLesson,
  needsNoVersion: 'gives marks to those without one',
  undo: {
    days: 1,
    whenChangedSince: 'leave',
    topics: ({ classId }: LessonInput) => [lessonTopic(classId), lessonsTopic()],
  },
  run: async (context, asked) => {
    const { classId, date } = asked
    const lesson = await checkLesson(context, asked)
    const place = { homeroomId: null, classId }
    const known = knownInLesson(date, lesson.period, halfOf(lesson))
    const marked = await fillIn(context, asked, place, classRollOn(classId, date), known)
    if (marked.length > 0) context.changed(...lessonTopics(context, asked))
    return marked
  },
})
