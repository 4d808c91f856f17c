import { named, textOf, type NameOf, type TableWords, type Values } from '@/server/platform/words'

/** "Fair tests, question 3", also where the question is asked no longer. */
const question = (values: Values, names: NameOf): string =>
  named('assessment_id', 'question_id')(values, names)

/** How rows of assessments read in a history. */
export const historyWords: Readonly<Record<string, TableWords>> = {
  attempt: {
    kind: 'Answers',
    which: named('assessment_id'),
    columns: { state: 'state', void_reason: 'reason' },
  },
  response: { kind: 'Answer', which: question, columns: { value: 'answer' } },
  response_points: { kind: 'Points', which: question, columns: { points: 'points', reason: 'reason' } },
  assessment: {
    kind: 'Assessment',
    which: (v) => textOf(v.name),
    columns: {
      name: 'name',
      description: 'description',
      tags: 'tags',
      owner_id: 'owner',
      year_group_id: 'year group',
    },
    name: 'name',
  },
  assessment_share: {
    kind: 'Share',
    which: named('assessment_id', 'staff_id', 'course_id', 'year_group_id'),
    columns: { may_see_results: 'see results', may_give: 'give', may_edit: 'edit' },
  },
  sitting: {
    kind: 'Sitting',
    which: named('assessment_id'),
    columns: { given_on: 'given on', given_by: 'given by' },
  },
  assessment_level: {
    kind: 'Level',
    which: (v, names) => `${named('assessment_id')(v, names)}, ${textOf(v.name)}`,
    columns: { name: 'name', from_percent: 'from percent', from_points: 'from points' },
  },
  standard_threshold: {
    kind: 'Level of a learning standard',
    which: named('assessment_id', 'standard_id'),
    columns: { from_percent: 'from percent', from_points: 'from points' },
  },
  question: {
    kind: 'Question',
    which: (v, names) => `${named('assessment_id')(v, names)}, question ${String(v.position ?? '')}`,
    columns: {
      position: 'position',
      kind: 'kind',
      rationale: 'rationale',
      choice_rationales: 'rationale of choices',
    },
    name: "'question ' || coalesce(position::text, 'that is no longer asked')",
  },
  question_key: {
    kind: 'Key',
    which: question,
    columns: { content: 'key', points: 'points', counts: 'counts' },
  },
  question_standard: {
    kind: 'Learning standard',
    which: named('assessment_id', 'question_id', 'standard_id'),
    columns: {},
  },
  standard_set: {
    kind: 'Set of learning standards',
    which: (v) => textOf(v.name),
    columns: { name: 'name' },
    name: 'name',
  },
  standard: {
    kind: 'Learning standard',
    which: (v) => textOf(v.code) || textOf(v.statement),
    columns: { code: 'code', statement: 'statement' },
    name: 'coalesce(code, statement)',
  },
  // Tables that were there until assessments of all kinds came: their lines of the history stay.
  answer_sheet: { kind: 'Answers', which: named('assessment_id'), columns: { answered: 'has answers' } },
  answer: { kind: 'Answer', which: question, columns: { choice: 'answer' } },
}
