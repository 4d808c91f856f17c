import type { Key } from '@/app/(school)/assessments/[assessmentId]/use-key'

/** What each dialog of an assessment's acts is given. */
export interface ActProps {
  readonly server: Key
  readonly onClose: (saved: boolean) => void
}
