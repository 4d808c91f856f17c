import * as assessmentCommands from './assessment/commands'
import { setAnswers } from './assessment/set-answers'
import * as assessmentQueries from './assessment/queries'
import * as attendanceMarks from './attendance/mark'
import { register } from './attendance/register'
import * as documents from './documents/documents'
import * as history from './history/queries'
import * as mail from './mail/queries'
import * as marksQueries from './marks/queries'
import { setScores } from './marks/set-scores'
import * as marksSettings from './marks/settings'
import { enrol } from './people/enrol'
import { find } from './people/find'
import * as peopleQueries from './people/queries'
import * as ownPassword from './people/set-own-password'
import * as cards from './reports/cards'
import * as moveEntries from './reports/move-entries'
import * as reportQueries from './reports/queries'
import * as writeEntries from './reports/write-entries'
import * as today from './today/queries'
import * as work from './work/work'
import * as year from './year/queries'
import * as yearSetUp from './year/set-up'

/** Every read of a school's data. */
export const queries = [
  year.shell,
  year.structure,
  today.due,
  today.registers,
  peopleQueries.list,
  peopleQueries.student,
  peopleQueries.possibleDuplicates,
  peopleQueries.enrolForm,
  peopleQueries.applicantGuardians,
  find,
  register,
  assessmentQueries.list,
  assessmentQueries.newForm,
  assessmentQueries.key,
  assessmentQueries.answers,
  assessmentQueries.findings,
  marksQueries.gradebook,
  marksQueries.scoreHistory,
  marksQueries.classes,
  reportQueries.rounds,
  reportQueries.round,
  reportQueries.classEntries,
  reportQueries.cardPreview,
  reportQueries.cardList,
  reportQueries.myCards,
  cards.cardsToPrint,
  cards.cardsToRelease,
  documents.read,
  history.ofStudent,
  work.list,
  mail.mailbox,
] as const

/** Every change of a school's data. */
export const commands = [
  enrol,
  ownPassword.setOwnPassword,
  ownPassword.signOutEverywhere,
  attendanceMarks.setMark,
  attendanceMarks.markRest,
  attendanceMarks.clearMarks,
  documents.upload,
  assessmentCommands.create,
  assessmentCommands.setDocument,
  assessmentCommands.setQuestions,
  assessmentCommands.setThresholds,
  setAnswers,
  setScores,
  marksSettings.saveSettings,
  marksSettings.saveAssignment,
  marksSettings.removeAssignment,
  marksSettings.linkAssessment,
  writeEntries.saveEntry,
  writeEntries.fillBlank,
  writeEntries.unfill,
  moveEntries.handIn,
  moveEntries.takeBack,
  moveEntries.check,
  moveEntries.sendBack,
  cards.askForCards,
  cards.askForRelease,
  cards.releaseCard,
  cards.finishRelease,
  cards.keepPrint,
  work.cancel,
  work.retry,
  yearSetUp.createYear,
  yearSetUp.addYearGroups,
] as const

type QueryList = (typeof queries)[number]
type CommandList = (typeof commands)[number]

export type QueryName = QueryList['name']
export type CommandName = CommandList['name']
type Named<L, N> = Extract<L, { name: N }>

/** What a query takes and answers, by its name; for the client, as types alone. */
export type QueryInput<N extends QueryName> = Named<QueryList, N>['input']['_zod']['input']
export type QueryOutput<N extends QueryName> = Awaited<ReturnType<Named<QueryList, N>['run']>>
export type CommandInput<N extends CommandName> = Named<CommandList, N>['input']['_zod']['input']
export type CommandOutput<N extends CommandName> = Awaited<ReturnType<Named<CommandList, N>['run']>>

const queryByName = new Map<string, QueryList>(queries.map((q) => [q.name, q]))
const commandByName = new Map<string, CommandList>(commands.map((c) => [c.name, c]))

/** The query of a name, or undefined. */
export const queryNamed = (name: string) => queryByName.get(name)
/** The command of a name, or undefined. */
export const commandNamed = (name: string) => commandByName.get(name)
