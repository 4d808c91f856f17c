import { sql } from 'kysely'
import { bestFirst, defineDomain, holdsAll, plainText, type Found } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { named, textOf } from '@/server/platform/words'
import {
  copyAssignment,
  createAssignment,
  orderAssignments,
  removeAssignment,
  saveAssignment,
  unlinkAssessment,
} from './assignments'
import { removeColumn, saveColumn } from './columns'
import { linkAssessment, linkTargets } from './link'
import { setColumnEntries } from './entered'
import {
  columnsAreNoCircle,
  columnsReadTheirClass,
  entriesFitTheirColumn,
  heldMarksAreOfTheirClass,
  openMarksHoldNothing,
  scoresAreOfMembers,
  scoresFit,
} from './invariants'
import { closeMarks, confirmMarks, heldMark, periodMarks, reopenMarks, takeBackMarks } from './periods'
import { mine } from './families'
import { setScoreNotes } from './notes'
import { classes, gradebook, linkedTo, scoreHistory } from './queries'
import { listClasses, seeGradebook, seeOwnMarks } from './rights'
import { setScores } from './set-scores'
import { saveSettings } from './settings'
import { settingsOffers, settingsPreview } from './set-up'

export { carryGradebooks } from './carry-gradebooks'
export type { Member } from './elsewhere'
export { holdMarks, keepValues, letGoOfMarks, stateOfMarks } from './hold'
export { gradebookTopic, loadGradebooks, marksStatesTopic, plainDecimal } from './load-gradebooks'
export { markItself, marksOf, type ClassMarks } from './marks-of'
export { seeGradebook } from './rights'

/** Gradebooks: assignments, scores and the rules of the term mark. */
export const marks = defineDomain({
  name: 'marks',
  tables: [
    'gradebook',
    'category',
    'assignment',
    'score',
    'scoreNote',
    'markColumn',
    'markColumnPart',
    'markColumnLevel',
    'columnEntry',
    'classMarks',
    'heldMark',
  ],
  reads: ['staff', 'year', 'people', 'assessment'],
  queries: {
    gradebook,
    linkedTo,
    linkTargets,
    scoreHistory,
    classes,
    settingsOffers,
    settingsPreview,
    periodMarks,
    heldMark,
    mine,
  },
  commands: {
    setScores,
    saveSettings,
    saveColumn,
    removeColumn,
    setColumnEntries,
    confirmMarks,
    takeBackMarks,
    closeMarks,
    reopenMarks,
    createAssignment,
    saveAssignment,
    copyAssignment,
    orderAssignments,
    removeAssignment,
    setScoreNotes,
    linkAssessment,
    unlinkAssessment,
  },
  find: [
    (context, words) => sql<Found>`
      select 'class' as kind, c.id, c.name, 'marks' as detail, '/classes/' || c.id || '/marks' as href
      from class c where ${holdsAll(plainText(sql`c.name || ' marks gradebook'`), words)}
        and ${whereMay(context, seeGradebook, sql.ref('c.id'))} order by ${bestFirst(plainText(sql.ref('c.name')), words)}, c.name limit 8`,
  ],
  places: [
    { name: 'Classes', href: '/classes', right: listClasses, position: 3 },
    { name: 'Marks', href: '/marks', right: seeOwnMarks, position: 2 },
  ],
  invariants: [
    scoresAreOfMembers,
    scoresFit,
    columnsReadTheirClass,
    columnsAreNoCircle,
    entriesFitTheirColumn,
    openMarksHoldNothing,
    heldMarksAreOfTheirClass,
  ],
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
        description: 'description',
        tags: 'tags',
        given_on: 'given',
        shown_from: 'shown to families from',
      },
      name: 'name',
    },
    category: {
      kind: 'Category',
      which: (v) => textOf(v.name),
      columns: { name: 'name', weight: 'weight', within: 'counted by', drop_lowest: 'lowest dropped' },
      name: 'name',
    },
    mark_column: {
      kind: 'Calculated column',
      which: (v) => textOf(v.name),
      columns: { name: 'name', does: 'does', take: 'takes', decimals: 'decimal places', term_id: 'term' },
      name: 'name',
    },
    mark_column_part: {
      kind: 'Part of a column',
      which: named('column_id'),
      columns: { weight: 'weight' },
    },
    mark_column_level: {
      kind: 'Level of a column',
      which: named('column_id'),
      columns: { name: 'name', from_value: 'from' },
    },
    column_entry: {
      kind: 'Entry of a column',
      which: named('column_id'),
      columns: { value: 'entered' },
    },
    score_note: {
      kind: 'Note to a score',
      which: named('assignment_id'),
      columns: { note: 'note' },
    },
    class_marks: {
      kind: 'Marks of a class',
      which: named('class_id', 'term_id', 'period_id'),
      columns: { state: 'state', reason: 'reason' },
    },
    held_mark: {
      kind: 'Held mark',
      which: named('column_id'),
      columns: { mark: 'mark', grade: 'grade' },
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
