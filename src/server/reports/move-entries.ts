import { sql } from 'kysely'
import { z } from 'zod'
import { blanksIn, entriesActs, type EntriesAct } from '@/core/reports/entries'
import { refuse } from '@/server/platform/failure'
import { id, named } from '@/server/platform/inputs'
import { defineCommand, type Context } from '@/server/platform/registry'
import { mayCheckEntries, mayWriteEntries } from './policy'
import { classEntries, roundTopic } from './queries'

const key = z.object({ roundId: id, classId: id })

/** Moves class entries along their path; refused from a state the act does not start in. */
async function move(
  context: Context,
  { roundId, classId }: z.infer<typeof key>,
  act: EntriesAct,
  remark: string | null,
) {
  const { db, actor, now } = context
  const { from, to } = entriesActs[act]
  const moved = await db
    .updateTable('class_entries')
    .set((eb) => ({
      state: to,
      remark,
      changed_by: actor.name,
      changed_at: now,
      version: eb('version', '+', 1),
    }))
    .where('round_id', '=', roundId)
    .where('class_id', '=', classId)
    .where('state', 'in', [...from])
    .returning('state')
    .executeTakeFirst()
  if (!moved) {
    const now_ = await db
      .selectFrom('class_entries')
      .select('state')
      .where('round_id', '=', roundId)
      .where('class_id', '=', classId)
      .executeTakeFirstOrThrow()
    throw refuse(
      `These entries are ${now_.state} now, so this is not possible any more. The page shows how they stand.`,
    )
  }
  await context.changed(roundTopic(roundId))
  await context.changed('today')
  return { state: to }
}

/** Hands in a class's entries. Marks and grades are kept as they are now. Blanks are pointed out first. */
export const handIn = defineCommand({
  name: 'reports.handIn',
  input: key.extend({ withBlanks: z.boolean() }),
  allow: mayWriteEntries,
  run: async (context, asked) => {
    const { db, actor, now } = context
    // Held until the end, so that no entry changes between the look at blanks and the handing in.
    await db
      .selectFrom('class_entries')
      .select('state')
      .where('round_id', '=', asked.roundId)
      .where('class_id', '=', asked.classId)
      .forUpdate()
      .execute()
    const { rows } = await classEntries.run(context, asked)
    const blanks = blanksIn(rows)
    if (blanks.length > 0 && !asked.withBlanks)
      throw refuse(`Still blank: ${blanks.map((b) => `${b.name} (${b.blanks.join(', ')})`).join('; ')}.`)
    // Entries that may be written hold no marks yet, so these are the gradebook's.
    const marks = rows.map((r) => ({ student_id: r.studentId, mark: r.mark ?? null, grade: r.grade ?? null }))
    await sql`
      insert into report_entry as e (school_id, round_id, class_id, student_id, handed_mark, handed_grade, changed_by, changed_at)
      select ${actor.schoolId}, ${asked.roundId}, ${asked.classId}, student_id, mark, grade, ${actor.name}, ${now}
      from jsonb_to_recordset(${JSON.stringify(marks)}::jsonb) as r(student_id uuid, mark text, grade text)
      on conflict (school_id, round_id, class_id, student_id)
        do update set handed_mark = excluded.handed_mark, handed_grade = excluded.handed_grade, version = e.version + 1`.execute(
      db,
    )
    return move(context, asked, 'hand in', null)
  },
})

async function releaseMarks({ db }: Context, { roundId, classId }: z.infer<typeof key>) {
  await db
    .updateTable('report_entry')
    .set((eb) => ({ handed_mark: null, handed_grade: null, version: eb('version', '+', 1) }))
    .where('round_id', '=', roundId)
    .where('class_id', '=', classId)
    .execute()
}

/** Takes back entries that nobody has checked yet; marks follow the gradebook again. */
export const takeBack = defineCommand({
  name: 'reports.takeBack',
  input: key,
  allow: mayWriteEntries,
  run: async (context, asked) => {
    const moved = await move(context, asked, 'take back', null)
    await releaseMarks(context, asked)
    return moved
  },
})

/** The head finds them good. */
export const check = defineCommand({
  name: 'reports.check',
  input: key,
  allow: mayCheckEntries,
  run: (context, asked) => move(context, asked, 'check', null),
})

/** Sends entries back to the teacher with a remark; marks follow the gradebook again. */
export const sendBack = defineCommand({
  name: 'reports.sendBack',
  input: key.extend({ remark: named('The remark', 1000) }),
  allow: mayCheckEntries,
  run: async (context, { remark, ...asked }) => {
    const moved = await move(context, asked, 'send back', remark)
    await releaseMarks(context, asked)
    return moved
  },
})
