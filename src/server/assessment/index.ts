import { sql } from 'kysely'
import { defineDomain, holdsAll, plainText, type Found } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { named, textOf } from '@/server/platform/words'
import { create, setDocument, setQuestions, setThresholds } from './commands'
import { answersDue } from './due'
import { answersAreOfMembers, answersAreChoices } from './invariants'
import { answers, findings, key, list, newForm } from './queries'
import { createAssessment, listAssessments, readTest, seeAssessment } from './rights'
import { setAnswers } from './set-answers'

export { assessmentTopic, classAssessmentsTopic } from './changed'
export { seeAssessment } from './rights'

/** Assessments: documents, keys, answers and findings. */
export const assessment = defineDomain({
  name: 'assessment',
  tables: [
    'learningStandard',
    'assessment',
    'assessmentClass',
    'question',
    'answerSheet',
    'answer',
    'assessmentScore',
  ],
  reads: ['year', 'people', 'files', 'staff'],
  queries: { list, newForm, key, answers, findings },
  commands: { create, setDocument, setQuestions, setThresholds, setAnswers },
  due: [answersDue],
  find: [
    (context, words) => sql<Found>`
      select 'assessment' as kind, a.id, a.name, 'assessment' as detail, '/assessments/' || a.id || '/findings' as href
      from assessment a where ${holdsAll(plainText(sql`a.name || ' assessment'`), words)}
        and ${whereMay(context, seeAssessment, sql.ref('a.id'))} order by a.given_on desc limit 8`,
  ],
  places: [
    { name: 'Assessments', href: '/assessments', right: listAssessments, position: 5 },
    { name: 'Create an assessment', href: '/assessments/new', right: createAssessment },
  ],
  files: [{ table: 'assessment', column: 'document_id', right: readTest, object: 'id' }],
  invariants: [answersAreOfMembers, answersAreChoices],
  history: {
    answer_sheet: {
      kind: 'Answer sheet',
      which: named('assessment_id'),
      columns: { answered: 'has answers' },
    },
    answer: {
      kind: 'Answer',
      which: named('assessment_id', 'question_id'),
      columns: { choice: 'choice' },
    },
    assessment: {
      kind: 'Assessment',
      which: (v) => textOf(v.name),
      columns: { name: 'name', secure_from: 'secure from', nearly_from: 'nearly from' },
      name: 'name',
    },
    question: {
      kind: 'Question',
      which: (v, names) => `${named('assessment_id')(v, names)}, question ${String(v.position ?? '')}`,
      columns: { key: 'key', points: 'points', choices: 'choices' },
      name: "'question ' || position",
    },
  },
})
