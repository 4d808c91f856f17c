import type { QueryOutput } from '@/server/registry'

export type Findings = QueryOutput<'assessment.findings'>

/** Students behind a figure, and what the figure is. */
export interface Behind {
  readonly title: string
  readonly students: readonly string[]
  readonly page?: number | null
}
