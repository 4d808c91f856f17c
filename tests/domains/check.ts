import { admin, type Entries } from './entry'

export const entries: Entries = {
  last: { who: admin, aboutOneself: true },
  now: { who: admin, aboutOneself: true },
}
