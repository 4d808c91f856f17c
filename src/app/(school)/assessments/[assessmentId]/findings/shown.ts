import type { QueryOutput } from '@/server/registry'

export type Findings = QueryOutput<'assessment.findings'>

/** Students behind a figure, and what the figure is. */
export interface Behind {
  readonly title: string
  readonly students: readonly string[]
  /** The question it is a figure of, and what was answered. */
  readonly question?: Findings['questions'][number]
  readonly answer?: string
}
