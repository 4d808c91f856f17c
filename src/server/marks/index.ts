import { sql } from 'kysely'
import { bestFirst, defineDomain, holdsAll, plainText, type Found } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { named, textOf } from '@/server/platform/words'
import { createAssignment, unlinkAssessment, removeAssignment, saveAssignment } from './assignments'
import { removeColumn, saveColumn } from './columns'
import { linkAssessment, linkTargets } from './link'
import { columnsAreNoCircle, columnsReadTheirClass, scoresAreOfMembers, scoresFit } from './invariants'
import { classes, gradebook, linkedTo, scoreHistory } from './queries'
import { listClasses, seeGradebook } from './rights'
import { setScores } from './set-scores'
import { saveSettings } from './settings'
import { settingsOffers, settingsPreview } from './set-up'

export { carryGradebooks } from './carry-gradebooks'
export { gradebookTopic, loadGradebooks, plainDecimal } from './load-gradebooks'
export { seeGradebook } from './rights'

/** Gradebooks: assignments, scores and the rules of the term mark. */
export const marks = defineDomain({
  name: 'marks',
  tables: ['gradebook', 'category', 'assignment', 'score', 'markColumn', 'markColumnPart', 'markColumnLevel'],
  reads: ['staff', 'year', 'people', 'assessment'],
  queries: { gradebook, linkedTo, linkTargets, scoreHistory, classes, settingsOffers, settingsPreview },
  commands: {
    setScores,
    saveSettings,
    saveColumn,
    removeColumn,
    createAssignment,
    saveAssignment,
    removeAssignment,
    linkAssessment,
    unlinkAssessment,
  },
  find: [
    (context, words) => sql<Found>`
      select 'class' as kind, c.id, c.name, 'marks' as detail, '/classes/' || c.id || '/marks' as href
      from class c where ${holdsAll(plainText(sql`c.name || ' marks gradebook'`), words)}
        and ${whereMay(context, seeGradebook, sql.ref('c.id'))} order by ${bestFirst(plainText(sql.ref('c.name')), words)}, c.name limit 8`,
  ],
  places: [{ name: 'Classes', href: '/classes', right: listClasses, position: 3 }],
  invariants: [scoresAreOfMembers, scoresFit, columnsReadTheirClass, columnsAreNoCircle],
  history: {
    score: {
      kind: 'Score',
      which: named('assignment_id'),
      columns: { points: 'points', standing: 'standing', late: 'late' },
    },
    assignment: {
      kind: 'Assignment',
      which: (v) => textOf(v.name),
      columns: {
        name: 'name',
        max_points: 'maximum',
        due_on: 'due',
        counts: 'counts',
        extra: 'extra credit',
      },
      name: 'name',
    },
    category: {
      kind: 'Category',
      which: (v) => textOf(v.name),
      columns: { name: 'name', weight: 'weight', within: 'counted by', drop_lowest: 'lowest dropped' },
      name: 'name',
    },
    markColumn: {
      kind: 'Calculated column',
      which: (v) => textOf(v.name),
      columns: { name: 'name', does: 'does', take: 'takes', decimals: 'decimal places', term_id: 'term' },
      name: 'name',
    },
    markColumnPart: {
      kind: 'Part of a column',
      which: named('column_id'),
      columns: { weight: 'weight' },
    },
    markColumnLevel: {
      kind: 'Level of a column',
      which: named('column_id'),
      columns: { name: 'name', from_value: 'from' },
    },
    gradebook: {
      kind: 'Gradebook',
      which: named('class_id'),
      columns: {
        method: 'method',
        decimals: 'decimal places',
        empty_counts: 'empty scores',
        missing_counts: 'missing work',
        incomplete_counts: 'incomplete work',
        late_percent: 'late work loses, per cent',
        late_of: 'of',
        most: 'highest mark',
      },
    },
  },
})
