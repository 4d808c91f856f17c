import { staff, type Entries } from './entry'

export const entries: Entries = {
  anything: { who: staff, aboutOneself: true, input: () => ({ text: 'il' }) },
}
