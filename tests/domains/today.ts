import { staff, type Entries } from './entry'

export const entries: Entries = {
  due: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
}
