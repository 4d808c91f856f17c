import { defineDomain } from '@/server/platform/define'
import { named } from '@/server/platform/words'
import {
  askForCards,
  askForRelease,
  cardsToPrint,
  cardsToRelease,
  cardToRelease,
  finishRelease,
  keepIssue,
  keepPrint,
  printJob,
  releaseJob,
} from './cards'
import { entriesDue } from './due'
import { cardsAreChecked, entriesAreOfMembers, entriesGoWithMarks, feedsAreInSight } from './invariants'
import { feeds, saveFeeds } from './feeds'
import { cardReady } from './mails'
import { check, handIn, sendBack, takeBack } from './move-entries'
import { cardList, cardPreview, classEntries, myCards, round, rounds } from './queries'
import { listRounds, readCard, seeOwnCards } from './rights'
import { fillBlank, setEntries } from './write-entries'

export { readCard } from './rights'

/** Report rounds: class entries from writing to release, and the cards made from them. */
export const reports = defineDomain({
  name: 'reports',
  tables: [
    'reportRound',
    'reportRoundYearGroup',
    'classEntries',
    'reportEntry',
    'reportCard',
    'reportLine',
    'feed',
  ],
  reads: ['year', 'people', 'attendance', 'marks', 'assessment'],
  queries: {
    rounds,
    round,
    feeds,
    classEntries,
    cardPreview,
    cardList,
    myCards,
    cardsToPrint,
    cardsToRelease,
    cardToRelease,
  },
  commands: {
    setEntries,
    fillBlank,
    saveFeeds,
    handIn,
    takeBack,
    check,
    sendBack,
    askForCards,
    keepPrint,
    askForRelease,
    keepIssue,
    finishRelease,
  },
  jobs: { printCards: printJob, releaseCards: releaseJob },
  mails: { cardReady },
  due: [entriesDue],
  places: [
    { name: 'Reports', href: '/reports', right: listRounds, position: 6 },
    { name: 'Report cards', href: '/report-cards', right: seeOwnCards, position: 1 },
  ],
  files: [{ table: 'reportCard', column: 'document_id', right: readCard, object: 'student_id' }],
  invariants: [entriesAreOfMembers, cardsAreChecked, entriesGoWithMarks, feedsAreInSight],
  history: {
    report_entry: {
      kind: 'Report entry',
      which: named('class_id', 'round_id'),
      columns: {
        effort: 'effort',
        comment: 'comment',
      },
    },
    report_line: {
      kind: 'Line of a report',
      which: (v) => String(v.name ?? ''),
      columns: { name: 'name', kind: 'kind' },
      name: 'name',
    },
    feed: {
      kind: 'Feed',
      which: named('class_id', 'line_id'),
      columns: { column_id: 'filled from' },
    },
    report_card: {
      kind: 'Report card',
      which: named('round_id'),
      columns: { issue: 'issue', released_by: 'released by', replaced_at: 'replaced' },
    },
    report_round: {
      kind: 'Report round',
      which: (v) => String(v.name ?? ''),
      columns: { name: 'name' },
      name: 'name',
    },
    class_entries: {
      kind: 'Class entries',
      which: named('class_id', 'round_id'),
      columns: { state: 'state', remark: 'remark' },
    },
  },
})
