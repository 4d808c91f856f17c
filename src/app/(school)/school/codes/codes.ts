import type { QueryOutput } from '@/server/registry'

export type CodeSet = QueryOutput<'attendance.codeSets'>['sets'][number]
