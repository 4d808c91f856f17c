import { admin, type Entries } from './entry'

export const entries: Entries = {
  received: { who: admin, aboutOneself: true },
  notSent: { who: admin, aboutOneself: true },
  sendTest: { who: admin, aboutOneself: true },
  sendAgain: { who: admin, input: (o) => ({ mailId: o.mailId }) },
}
