import type { QueryOutput } from '@/server/registry'

export type Member = QueryOutput<'staff.member'>
