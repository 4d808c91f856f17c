import { z } from 'zod'
import { areHeld } from '@/core/marks/periods/state'
import { blanksIn, entriesActs, type EntriesAct } from '@/core/reports/entries'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { entriesInput, sendBackInput } from '@/core/reports/inputs'
import { updateIfUnchanged } from '@/server/platform/write'
import { holdMarks, letGoOfMarks, stateOfMarks } from '@/server/marks'
import { loadRound } from './load-cards'
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

/** Hands in a class's entries, and confirms its marks where nobody has. Blanks are pointed out first. */
export const handIn = defineCommand({
  input: entriesInput.extend({ withBlanks: z.boolean() }),
  right: writeEntries,
  moment: 'one',
  run: async (context, asked) => {
    const { db } = context
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
    // The entries go with confirmed marks: with those that are held, or in the same act with what they are now.
    const marks = await marksHere(context, asked)
    if (!areHeld(marks.state)) await holdMarks(context, marks)
    return moved
  },
})

/** The marks that the entries of a class show, as they stand. */
async function marksHere(context: Context, { roundId, classId }: Asked) {
  const { termId } = await loadRound(context, roundId)
  const period = { termId, periodId: null }
  const { state, version } = await stateOfMarks(context, classId, period)
  return { classId, period, state, expectedVersion: version }
}

/**
 * Lets confirmed marks follow the gradebook again, with entries that went back. Not where other entries of the class
 * show them, nor where they are closed.
 */
async function letGo(context: Context, asked: Asked): Promise<void> {
  const marks = await marksHere(context, asked)
  const others = await context.db
    .selectFrom('classEntries as e')
    .innerJoin('reportRound as r', 'r.id', 'e.roundId')
    .select('e.roundId')
    .where('e.classId', '=', asked.classId)
    .where('r.termId', '=', marks.period.termId)
    .where('e.state', 'not in', ['writing', 'sent back'])
    .limit(1)
    .executeTakeFirst()
  if (marks.state === 'confirmed' && !others) await letGoOfMarks(context, marks)
}

/** Takes back entries that nobody has checked yet; marks follow the gradebook again. */
export const takeBack = defineCommand({
  input: entriesInput,
  right: writeEntries,
  run: async (context, asked) => {
    const moved = await move(context, asked, 'take back', null)
    await letGo(context, asked)
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
    await letGo(context, asked)
    return moved
  },
})
