import { everyone, type Entries } from './entry'

export const entries: Entries = {
  frame: { who: everyone, aboutOneself: true },
}
