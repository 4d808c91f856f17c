import { dayWithin } from '@/core/calendar/school-year'
import { sql } from 'kysely'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { efforts, isWritable, type Effort } from '@/core/reports/entries'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { id } from '@/core/inputs'
import { defineWrite, type Written } from '@/server/platform/write'
import { membersOf } from '@/server/school/members'
import { loadRound } from './load-cards'
import { writeEntries } from './rights'
import { entriesTopic, roundTopic } from './topics'
import { refuse, refuseField } from './messages'

type Scope = { roundId: string; classId: string }
type Key = { studentId: string }
type EntryValue = { effort: Effort | null; comment: string }

const scope = z.object({ roundId: id, classId: id })
const topics = ({ roundId, classId }: Scope) => [entriesTopic(roundId, classId), roundTopic(roundId)]

/** The round, once it is sure that the entries can still be written. Locked, so that handing in waits for a last word. */
async function writableRound(context: Context, { roundId, classId }: Scope) {
  const entries = await context.db
    .selectFrom('classEntries')
    .select('state')
    .where('roundId', '=', roundId)
    .where('classId', '=', classId)
    .forShare()
    .executeTakeFirstOrThrow()
  if (!isWritable(entries.state)) throw refuse('notWritable', { state: entries.state })
  return loadRound(context, roundId)
}

/** Keeps students' effort and comment as they are typed. */
export const setEntries = defineWrite<Scope, Key, EntryValue>({
  table: 'reportEntry',
  what: 'this entry',
  scope,
  key: z.object({ studentId: id }),
  value: z.object({ effort: z.enum(efforts).nullable(), comment: z.string().max(limits.comment * 5) }),
  right: writeEntries,
  keyColumns: ({ roundId, classId }, { studentId }) => ({ roundId, classId, studentId }),
  columns: ({ effort, comment }) => ({ effort, comment }),
  keyOf: (row) => ({ studentId: row.studentId as string }),
  valueOf: (row) => ({ effort: row.effort as Effort | null, comment: row.comment as string }),
  check: async (context, asked, cells) => {
    const round = await writableRound(context, asked)
    const members = await membersOf(context, asked.classId, dayWithin(round, context.today))
    const here = new Set(members.map((m) => m.id))
    for (const { key, value } of cells) {
      if (!here.has(key.studentId)) throw refuse('notInClass', {})
      if (value.comment.length > round.commentLimit)
        throw refuseField('comment', 'tooLong', { length: value.comment.length, most: round.commentLimit })
    }
  },
  topics: (_context, asked) => topics(asked),
})

/** Gives one effort or comment to all students of the class who have none; existing entries are kept. Answers who got it. */
export const fillBlank = defineCommand({
  input: scope.extend({
    field: z.enum(['effort', 'comment']),
    value: z.string().trim().min(1, 'Enter what to fill in.').max(limits.comment),
  }),
  right: writeEntries,
  needsNoVersion: 'only where there is nothing',
  undo: { days: 1, whenChangedSince: 'leave', topics },
  run: async (context, { roundId, classId, field, value }): Promise<readonly Written<Key>[]> => {
    const { db, actor, now, today } = context
    const round = await writableRound(context, { roundId, classId })
    if (field === 'effort' && !(efforts as readonly string[]).includes(value))
      throw refuseField('value', 'noEffort', { efforts })
    if (field === 'comment' && value.length > round.commentLimit)
      throw refuseField('value', 'tooLong', { length: value.length, most: round.commentLimit })
    const column = sql.ref(field)
    const blank = field === 'effort' ? sql`e.effort is null` : sql`e.comment !~ '\\S'`
    const { rows } = await sql<{ studentId: string; version: number }>`
      insert into report_entry as e (school_id, round_id, class_id, student_id, ${column}, changed_by, changed_at)
      select ${actor.schoolId}, ${roundId}, ${classId}, m.student_id, ${value}, ${actor.name}, ${now} from class_member m
      where m.class_id = ${classId} and m.period @> ${dayWithin(round, today)}::date
      on conflict (school_id, round_id, class_id, student_id)
        do update set ${column} = ${value}, changed_by = ${actor.name}, changed_at = ${now} where ${blank}
      returning student_id, version`.execute(db)
    context.changed(...topics({ roundId, classId }))
    return rows.map(({ studentId, version }) => ({ key: { studentId }, version }))
  },
})
