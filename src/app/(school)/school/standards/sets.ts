import type { QueryOutput } from '@/server/registry'

/** The school's sets of learning standards, as the page has them. */
export type Sets = QueryOutput<'assessment.standardSets'>
export type Set = Sets['sets'][number]
export type Standard = Set['standards'][number]
