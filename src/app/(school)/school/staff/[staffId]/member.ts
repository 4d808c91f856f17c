import type { QueryOutput } from '@/server/registry'

export type Member = QueryOutput<'staffing.member'>
