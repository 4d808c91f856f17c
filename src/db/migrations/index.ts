import type { Migration } from 'kysely'
import * as platform from './001-platform'
import * as yearAndStructure from './002-year-and-structure'
import * as people from './003-people'
import * as attendance from './004-attendance'
import * as assessments from './005-assessments'
import * as marks from './006-marks'
import * as reports from './007-reports'
import * as workAndMail from './008-work-and-mail'
import * as actor from './009-actor'
import * as answersTakenAway from './010-answers-taken-away'
import * as naturalOrder from './011-natural-order'

/** Every migration in order, forward only. Names are kept in the database: never rename one that has run. */
export const migrations: Readonly<Record<string, Migration>> = {
  '001-platform': platform,
  '002-year-and-structure': yearAndStructure,
  '003-people': people,
  '004-attendance': attendance,
  '005-assessments': assessments,
  '006-marks': marks,
  '007-reports': reports,
  '008-work-and-mail': workAndMail,
  '009-actor': actor,
  '010-answers-taken-away': answersTakenAway,
  '011-natural-order': naturalOrder,
}
