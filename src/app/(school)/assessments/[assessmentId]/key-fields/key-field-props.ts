import type { ContentOf, KindName } from '@/core/assessment/kinds'

/** What the field for a key of one kind of question is given. */
export interface KeyFieldProps<N extends KindName> {
  readonly position: number
  readonly content: ContentOf<N>
  readonly disabled: boolean
  /** The new content, and what has changed in words. */
  readonly onChange: (content: ContentOf<N>, words: string) => void
}
