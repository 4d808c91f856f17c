import { sql } from 'kysely'
import { z } from 'zod'
import { blanksIn, entriesActs, type EntriesAct } from '@/core/reports/entries'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { entriesInput, sendBackInput } from '@/core/reports/inputs'
import { updateIfUnchanged } from '@/server/platform/write'
import { classEntries } from './queries'
import { checkEntries, writeEntries } from './rights'
import { allEntriesTopic, classEntriesTopic, entriesTopic, roundTopic } from './topics'
import { refuse } from './messages'

type Asked = z.infer<typeof entriesInput>

/** Moves class entries that still have the version seen along their path; refused from a state the act does not start in. */
async function move(
  context: Context,
  { roundId, classId, expectedVersion: version }: Asked,
  act: EntriesAct,
  remark: string | null,
) {
  const { db, actor, now } = context
  const { from, to } = entriesActs[act]
  const standing = () =>
    db
      .selectFrom('classEntries')
      .select(['state', 'changedBy'])
      .where('roundId', '=', roundId)
      .where('classId', '=', classId)
      .executeTakeFirstOrThrow()
  const { state } = await standing()
  const columns = { state: to, remark, changedBy: actor.name, changedAt: now }
  const written = await updateIfUnchanged(context, 'classEntries', { roundId, classId }, version, columns, {
    what: 'these entries',
    saved: async () => {
      const saved = await standing()
      return { value: { state: saved.state }, by: saved.changedBy ?? '' }
    },
  })
  if (!from.includes(state)) throw refuse('state', { state })
  context.changed(
    entriesTopic(roundId, classId),
    roundTopic(roundId),
    classEntriesTopic(classId),
    allEntriesTopic(),
  )
  return { state: to, version: written }
}

/** Hands in a class's entries. Marks and grades are kept as they are now. Blanks are pointed out first. */
export const handIn = defineCommand({
  input: entriesInput.extend({ withBlanks: z.boolean() }),
  right: writeEntries,
  moment: 'one',
  run: async (context, asked) => {
    const { db, actor, now } = context
    // Held until the end, so that no entry changes between the look at blanks and the handing in.
    await db
      .selectFrom('classEntries')
      .select('state')
      .where('roundId', '=', asked.roundId)
      .where('classId', '=', asked.classId)
      .forUpdate()
      .execute()
    const { rows } = await classEntries.run(context, asked)
    const blanks = blanksIn(rows)
    if (blanks.length > 0 && !asked.withBlanks) throw refuse('blanks', { students: blanks })
    const moved = await move(context, asked, 'hand in', null)
    // A mark that is empty now is held empty.
    const marks = rows.map((r) => ({ studentId: r.studentId, mark: r.mark ?? null, grade: r.grade ?? null }))
    await sql`
      insert into report_entry as e (school_id, round_id, class_id, student_id, handed_mark, handed_grade, changed_by, changed_at)
      select ${actor.schoolId}, ${asked.roundId}, ${asked.classId}, "studentId", mark, grade, ${actor.name}, ${now}
      from jsonb_to_recordset(${JSON.stringify(marks)}::jsonb) as r("studentId" uuid, mark text, grade text)
      on conflict (school_id, round_id, class_id, student_id)
        do update set handed_mark = excluded.handed_mark, handed_grade = excluded.handed_grade`.execute(db)
    return moved
  },
})

async function letGoOfMarks({ db }: Context, { roundId, classId }: Asked) {
  await db
    .updateTable('reportEntry')
    .set({ handedMark: null, handedGrade: null })
    .where('roundId', '=', roundId)
    .where('classId', '=', classId)
    .execute()
}

/** Takes back entries that nobody has checked yet; marks follow the gradebook again. */
export const takeBack = defineCommand({
  input: entriesInput,
  right: writeEntries,
  run: async (context, asked) => {
    const moved = await move(context, asked, 'take back', null)
    await letGoOfMarks(context, asked)
    return moved
  },
})

/** Marks entries as checked, as they were shown. */
export const check = defineCommand({
  input: entriesInput,
  right: checkEntries,
  run: (context, asked) => move(context, asked, 'check', null),
})

/** Sends entries back to the teacher with a remark; marks follow the gradebook again. */
export const sendBack = defineCommand({
  input: sendBackInput,
  right: checkEntries,
  run: async (context, { remark, ...asked }) => {
    const moved = await move(context, asked, 'send back', remark)
    await letGoOfMarks(context, asked)
    return moved
  },
})
