import { everyone, type Entries } from './entry'

export const entries: Entries = {
  setOwnPassword: { who: everyone, aboutOneself: true, input: () => ({ password: 'short' }) },
  sessions: { who: everyone, aboutOneself: true },
  endOwnSession: { who: everyone, aboutOneself: true, input: () => ({ sessionId: 'none' }) },
  address: { who: everyone, aboutOneself: true },
  confirmOwnAddress: { who: everyone, aboutOneself: true },
  signOutEverywhere: { who: everyone, aboutOneself: true },
}
