import { levelsInput } from '@/core/assessment/inputs'
import type { Level, Threshold } from '@/core/assessment/levels'
import { mostOf } from '@/core/assessment/scoring'
import { hundredths } from '@/core/marks/rational'
import { defineCommand } from '@/server/platform/define'
import { checkUnchanged } from '@/server/platform/write'
import { assessmentChanged } from './changed'
import { loadQuestions } from './load-assessment'
import { editAssessment } from './rights'
import { refuseField } from './messages'

type OfIt = { readonly schoolId: string; readonly assessmentId: string }

const columnsOf = (from: Threshold | null) => ({
  fromPercent: from && 'percent' in from ? from.percent : null,
  fromPoints: from && 'points' in from ? from.points : null,
})

/** Levels as rows, the highest first. */
export const levelRows = (ofIt: OfIt, levels: readonly Level[]) =>
  levels.map(({ name, from }, i) => ({ ...ofIt, position: i + 1, name, ...columnsOf(from) }))

/** Where a level begins, in hundredths of points; a share of the points as a fraction of them. */
const begins = (from: Threshold, most: number) =>
  'percent' in from ? (hundredths(from.percent) * most) / 10000 : hundredths(from.points)

/** Each level begins below the one above it, and none above what can be had. */
function checkOrder(names: readonly string[], thresholds: readonly Threshold[], most: number): void {
  thresholds.forEach((from, i) => {
    const above = thresholds[i - 1]
    const [name = '', higher = ''] = [names[i], names[i - 1]]
    if ('points' in from && hundredths(from.points) > most)
      throw refuseField('levels', 'aboveMost', { name, points: from.points, most: most / 100 })
    if (above && begins(from, most) >= begins(above, most) && !(most === 0 && sameMeasure(above, from)))
      throw refuseField('levels', 'outOfOrder', { name, higher })
  })
}
/** Without any points yet, percentages are compared as they are. */
const sameMeasure = (above: Threshold, from: Threshold) =>
  'percent' in above && 'percent' in from && hundredths(from.percent) < hundredths(above.percent)

/** Sets the levels of an assessment, and where they begin for single standards. */
export const setLevels = defineCommand({
  input: levelsInput,
  right: editAssessment,
  run: async (context, { assessmentId, expectedVersion: seen, levels, standards }) => {
    const { db, actor } = context
    const version = await checkUnchanged(context, 'assessment', { id: assessmentId }, seen, 'this assessment')
    const questions = await loadQuestions(db, assessmentId)
    const names = levels.map((level) => level.name)
    checkOrder(
      names,
      levels.flatMap(({ from }) => from ?? []),
      mostOf(questions),
    )
    for (const { standardId, from } of standards) {
      const tagged = questions.filter((q) => q.standardIds.includes(standardId))
      if (tagged.length === 0) throw refuseField('levels', 'standardUnused', {})
      if (from.length !== levels.length - 1) throw refuseField('levels', 'standardLevels', {})
      checkOrder(names, from, mostOf(tagged))
    }
    const ofIt = { schoolId: actor.schoolId, assessmentId }
    await db.deleteFrom('standardThreshold').where('assessmentId', '=', assessmentId).execute()
    await db
      .deleteFrom('assessmentLevel')
      .where('assessmentId', '=', assessmentId)
      .where('position', '>', levels.length)
      .execute()
    await db
      .insertInto('assessmentLevel')
      .values(levelRows(ofIt, levels))
      .onConflict((c) =>
        c.columns(['schoolId', 'assessmentId', 'position']).doUpdateSet((eb) => ({
          name: eb.ref('excluded.name'),
          fromPercent: eb.ref('excluded.fromPercent'),
          fromPoints: eb.ref('excluded.fromPoints'),
        })),
      )
      .execute()
    const rows = standards.flatMap(({ standardId, from }) =>
      from.map((one, i) => ({ ...ofIt, standardId, position: i + 1, ...columnsOf(one) })),
    )
    if (rows.length > 0) await db.insertInto('standardThreshold').values(rows).execute()
    await assessmentChanged(context, assessmentId)
    return { version }
  },
})
