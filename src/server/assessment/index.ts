import { sql } from 'kysely'
import { defineDomain, holdsAll, plainText, type Found } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { copy, create } from './create'
import { convertJob, keepDocument, sourceBytes, sources } from './convert'
import { setDocument } from './document'
import { answersDue } from './due'
import {
  answersAreChoices,
  answersAreOfMembers,
  askedQuestionsHaveKeys,
  pointsAreOfAnswers,
  pointsAreWorkedOut,
  standardsAreTrees,
} from './invariants'
import { historyWords } from './history'
import { setLevels } from './levels'
import { answers, findings, key, list, newForm, series } from './queries'
import { createAssessment, listAssessments, readTest, seeAssessment, seeStandards } from './rights'
import { describe, describing, give, handingOver, handOver, setShares, sharing } from './sharing'
import {
  addStandard,
  createStandardSet,
  importStandards,
  removeStandard,
  removeStandardSet,
  saveStandard,
  saveStandardSet,
  standardSets,
} from './standards'
import { setAnswers } from './set-answers'
import { setQuestions } from './set-questions'

export { assessmentTopic, classAssessmentsTopic } from './changed'
export { resultsOf, standardResultsOf } from './load-assessment'
export { seeResults, seesResultOf } from './rights'

/** Assessments: documents, keys, answers and findings. */
export const assessment = defineDomain({
  name: 'assessment',
  tables: [
    'standardSet',
    'standard',
    'assessment',
    'assessmentShare',
    'form',
    'formDocument',
    'formSource',
    'sitting',
    'sittingClass',
    'question',
    'keyVersion',
    'questionKey',
    'questionStandard',
    'questionPlace',
    'assessmentLevel',
    'standardThreshold',
    'attempt',
    'response',
    'responsePoints',
    'askedQuestion',
    'assessmentTotal',
    'countedResponse',
    'attemptResult',
    'assessmentResult',
    'assessmentStandardTotal',
    'assessmentStandardResult',
  ],
  reads: ['account', 'year', 'people', 'files', 'staff'],
  queries: {
    list,
    newForm,
    key,
    answers,
    findings,
    series,
    sharing,
    describing,
    handingOver,
    sources,
    sourceBytes,
    standardSets,
  },
  commands: {
    create,
    copy,
    setDocument,
    setQuestions,
    setLevels,
    setAnswers,
    describe,
    setShares,
    give,
    handOver,
    keepDocument,
    createStandardSet,
    saveStandardSet,
    removeStandardSet,
    importStandards,
    addStandard,
    saveStandard,
    removeStandard,
  },
  jobs: { convert: convertJob },
  due: [answersDue],
  find: [
    (context, words) => sql<Found>`
      select 'assessment' as kind, a.id, a.name, 'assessment' as detail, '/assessments/' || a.id as href
      from assessment a where ${holdsAll(plainText(sql`a.name || ' assessment'`), words)}
        and ${whereMay(context, seeAssessment, sql.ref('a.id'))} order by a.created_at desc limit 8`,
  ],
  places: [
    { name: 'Assessments', href: '/assessments', right: listAssessments, position: 5 },
    { name: 'Create an assessment', href: '/assessments/new', right: createAssessment },
    {
      name: 'Learning standards',
      href: '/school/standards',
      right: seeStandards,
      of: 'School',
      group: 'Rules',
      position: 2,
    },
  ],
  files: [
    { table: 'formDocument', column: 'document_id', right: readTest, object: 'assessment_id' },
    { table: 'formSource', column: 'document_id', right: readTest, object: 'assessment_id' },
  ],
  invariants: [
    answersAreOfMembers,
    answersAreChoices,
    askedQuestionsHaveKeys,
    pointsAreOfAnswers,
    pointsAreWorkedOut,
    standardsAreTrees,
  ],
  history: historyWords,
})
