import { account } from './account'
import { carry } from './carry'
import { dataCheck } from './check'
import { files } from './files'
import { find } from './find'
import { history } from './history'
import { mail } from './mail'
import { record } from './record'
import { shell } from './shell'
import { setUp } from './set-up'
import { staffing } from './staffing'
import { today } from './today'
import { work } from './work'

/** What is composed from all domains, and what belongs to none. */
export const front = [
  shell,
  today,
  find,
  history,
  work,
  files,
  mail,
  account,
  record,
  dataCheck,
  carry,
  setUp,
  staffing,
] as const
