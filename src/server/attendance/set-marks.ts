import { sql } from 'kysely'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { dayKind } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { id, optionalLine } from '@/core/inputs'
import { defineWrite, type Written } from '@/server/platform/write'
import { loadYear } from '@/server/school/load-year'
import { homeroomTopic, registersTopic } from '@/server/school/topics'
import { codesOn } from './codes-on'
import { plannedOn } from './planned'
import { markRegister, watchRegisters } from './rights'
import { rollOn, sessionInput, type SessionInput } from './roll'
import { refuse, refuseField } from './words'

async function checkSession({ db, today }: Context, { date }: SessionInput) {
  const year = await loadYear(db, date)
  if (!year || dayKind(year, date).kind !== 'school day') throw refuse('noSession', { date })
  if (date > today) throw refuse('future', { date })
}

/** Codes in use on a date that the actor may enter, by id. */
async function usableCodes(context: Context, date: string) {
  const [codes, office] = await Promise.all([codesOn(context, date), context.may(watchRegisters, {})])
  return new Map(codes.filter((c) => office || !c.officeOnly).map((code) => [code.id, code]))
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

/** Sets or clears students' marks for a half-day. */
export const setMarks = defineWrite<SessionInput, { studentId: string }, MarkValue>({
  table: 'attendanceMark',
  what: 'this mark',
  scope: sessionInput,
  key: z.object({ studentId: id }),
  value: mark as unknown as z.ZodType<MarkValue>,
  right: markRegister,
  keyColumns: ({ date, session }, { studentId }) => ({ studentId, sessionDate: date, session }),
  columns: ({ codeId, minutesLate, note }, { homeroomId }) => ({
    homeroomId,
    codeId,
    minutesLate,
    note,
    reason: null,
  }),
  keyOf: (row) => ({ studentId: row.studentId as string }),
  valueOf: (row) => ({
    codeId: row.codeId as string | null,
    minutesLate: row.minutesLate as number | null,
    note: row.note as string | null,
  }),
  check: async (context, session, cells) => {
    const [codes, roll] = await Promise.all([
      usableCodes(context, session.date),
      rollOn(session.homeroomId, session.date).execute(context.db),
      checkSession(context, session),
    ])
    const onRoll = new Set(roll.rows.map((r) => r.id))
    for (const { key, value } of cells) {
      const code = value.codeId === null ? undefined : codes.get(value.codeId)
      if (value.codeId !== null && !code) throw refuseField('codeId', 'codeNotInUse', { date: session.date })
      if (value.minutesLate !== null && code?.meaning !== 'late')
        throw refuseField('minutesLate', 'minutesWithoutLate', {})
      if (!onRoll.has(key.studentId)) throw refuse('notOnRoll', { date: session.date })
    }
  },
  topics,
})

/**
 * Gives everyone on roll who has no mark yet the same one; whose absence is planned, its code. Marks that exist are kept.
 * @returns who was marked
 */
export const markRest = defineCommand({
  input: sessionInput.extend({ codeId: id }),
  right: markRegister,
  undo: {
    days: 1,
    whenChangedSince: 'leave',
    topics: ({ homeroomId }: SessionInput) => [homeroomTopic(homeroomId), registersTopic()],
  },
  run: async (context, asked): Promise<readonly Written<{ studentId: string }>[]> => {
    const { db, actor } = context
    const [codes] = await Promise.all([usableCodes(context, asked.date), checkSession(context, asked)])
    if (!codes.has(asked.codeId)) throw refuseField('codeId', 'codeNotInUse', { date: asked.date })
    const { rows } = await sql<{ studentId: string; version: number }>`
      insert into attendance_mark as m (school_id, student_id, session_date, session, homeroom_id, code_id, changed_by, changed_at)
      select ${actor.schoolId}, r.id, ${asked.date}, ${asked.session}, ${asked.homeroomId},
        coalesce(p.code_id, ${asked.codeId}::uuid), ${actor.name}, ${context.now}
      from (${rollOn(asked.homeroomId, asked.date)}) r
      left join (${plannedOn(asked.date, asked.session)}) p on p.student_id = r.id
      where not r.expected
      on conflict (school_id, student_id, session_date, session)
        do update set code_id = excluded.code_id, changed_by = excluded.changed_by, changed_at = excluded.changed_at
        where m.code_id is null
      returning student_id, version`.execute(db)
    if (rows.length > 0) context.changed(...topics(context, asked))
    return rows.map(({ studentId, version }) => ({ key: { studentId }, version }))
  },
})
