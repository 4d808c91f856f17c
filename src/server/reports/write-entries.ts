import { sql } from 'kysely'
import { z } from 'zod'
import { efforts, isWritable } from '@/core/reports/entries'
import { Refusal, refuse, refuseField } from '@/server/platform/failure'
import { expectedVersion, id } from '@/server/platform/inputs'
import { defineCommand, type Context } from '@/server/platform/registry'
import { membersOf } from '@/server/marks/queries'
import { loadRound, readingDate } from './load-cards'
import { mayWriteEntries } from './policy'
import { roundTopic } from './queries'

/** The class entries, refused when they can no longer be written. Locked, so that handing in waits for a last word. */
async function writableEntries(context: Context, roundId: string, classId: string) {
  const entries = await context.db
    .selectFrom('class_entries')
    .selectAll()
    .where('round_id', '=', roundId)
    .where('class_id', '=', classId)
    .forShare()
    .executeTakeFirstOrThrow()
  if (!isWritable(entries.state))
    throw refuse(
      `These entries are ${entries.state} and cannot be changed. ${entries.state === 'handed in' ? 'Take them back first.' : 'Ask the head to send them back.'}`,
    )
  return loadRound(context, roundId)
}

async function checkMember(
  context: Context,
  round: Awaited<ReturnType<typeof loadRound>>,
  classId: string,
  studentId: string,
) {
  const members = await membersOf(context, classId, readingDate(round, context.today))
  if (!members.some((m) => m.id === studentId)) throw refuse('This student is not in the class.')
}

/** Keeps one student's effort and comment as they are typed. */
export const saveEntry = defineCommand({
  name: 'reports.saveEntry',
  input: z.object({
    roundId: id,
    classId: id,
    studentId: id,
    effort: z.enum(efforts).nullable(),
    comment: z.string().max(20000),
    expectedVersion,
  }),
  allow: mayWriteEntries,
  run: async (context, asked) => {
    const { db, actor, now } = context
    const round = await writableEntries(context, asked.roundId, asked.classId)
    await checkMember(context, round, asked.classId, asked.studentId)
    if (asked.comment.length > round.comment_limit)
      throw refuseField(
        'comment',
        `The comment has ${asked.comment.length} characters; the card has room for ${round.comment_limit}. Shorten it by ${asked.comment.length - round.comment_limit}.`,
      )
    const key = {
      school_id: actor.schoolId,
      round_id: asked.roundId,
      class_id: asked.classId,
      student_id: asked.studentId,
    }
    const values = { effort: asked.effort, comment: asked.comment, changed_by: actor.name, changed_at: now }
    const written =
      asked.expectedVersion === 0
        ? await db
            .insertInto('report_entry')
            .values({ ...key, ...values })
            .onConflict((c) => c.doNothing())
            .returning('version')
            .executeTakeFirst()
        : await db
            .updateTable('report_entry')
            .set((eb) => ({ ...values, version: eb('version', '+', 1) }))
            .where('round_id', '=', key.round_id)
            .where('class_id', '=', key.class_id)
            .where('student_id', '=', key.student_id)
            .where('version', '=', asked.expectedVersion)
            .returning('version')
            .executeTakeFirst()
    if (!written) {
      const current = await db
        .selectFrom('report_entry')
        .select(['effort', 'comment', 'version', 'changed_by as changedBy'])
        .where('round_id', '=', key.round_id)
        .where('class_id', '=', key.class_id)
        .where('student_id', '=', key.student_id)
        .executeTakeFirst()
      throw new Refusal({
        kind: 'conflict',
        message: `${current?.changedBy ?? 'Somebody'} changed this entry meanwhile.`,
        current: current ?? null,
      })
    }
    await context.changed(roundTopic(asked.roundId))
    return { version: written.version }
  },
})

/** Gives one effort or comment to all students of the class who have none; entries that are there stay. Answers whom it changed. */
export const fillBlank = defineCommand({
  name: 'reports.fillBlank',
  input: z.object({
    roundId: id,
    classId: id,
    field: z.enum(['effort', 'comment']),
    value: z.string().trim().min(1, 'There is nothing to fill in yet.').max(4000),
  }),
  allow: mayWriteEntries,
  run: async (context, { roundId, classId, field, value }) => {
    const { db, actor, now, today } = context
    const round = await writableEntries(context, roundId, classId)
    if (field === 'effort' && !(efforts as readonly string[]).includes(value))
      throw refuseField('value', `Effort is one of ${efforts.join(', ')}.`)
    if (field === 'comment' && value.length > round.comment_limit)
      throw refuseField(
        'value',
        `The comment has ${value.length} characters; the card has room for ${round.comment_limit}.`,
      )
    const column = sql.ref(field)
    const blank = field === 'effort' ? sql`e.effort is null` : sql`e.comment !~ '\\S'`
    const { rows } = await sql<{ student_id: string; version: number }>`
      insert into report_entry as e (school_id, round_id, class_id, student_id, ${column}, changed_by, changed_at)
      select ${actor.schoolId}, ${roundId}, ${classId}, m.student_id, ${value}, ${actor.name}, ${now} from class_member m
      where m.class_id = ${classId} and m.period @> ${readingDate(round, today)}::date
      on conflict (school_id, round_id, class_id, student_id)
        do update set ${column} = ${value}, version = e.version + 1, changed_by = ${actor.name}, changed_at = ${now} where ${blank}
      returning student_id, version`.execute(db)
    await context.changed(roundTopic(roundId))
    return rows.map((r) => ({ studentId: r.student_id, version: r.version }))
  },
})

/** Takes back what `fillBlank` just filled, where nobody has changed it since. */
export const unfill = defineCommand({
  name: 'reports.unfill',
  input: z.object({
    roundId: id,
    classId: id,
    field: z.enum(['effort', 'comment']),
    entries: z.array(z.object({ studentId: id, version: expectedVersion })).max(200),
  }),
  allow: mayWriteEntries,
  run: async (context, { roundId, classId, field, entries }) => {
    await writableEntries(context, roundId, classId)
    const { rows } = await sql<{ student_id: string }>`
      update report_entry e set ${sql.ref(field)} = ${field === 'effort' ? null : ''}, version = e.version + 1, changed_by = ${context.actor.name}, changed_at = ${context.now}
      from jsonb_to_recordset(${JSON.stringify(entries)}::jsonb) as u("studentId" uuid, version int)
      where e.student_id = u."studentId" and e.version = u.version and e.round_id = ${roundId} and e.class_id = ${classId} returning e.student_id`.execute(
      context.db,
    )
    await context.changed(roundTopic(roundId))
    return rows.length
  },
})
