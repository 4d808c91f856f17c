import type { QueryOutput } from '@/server/registry'

export type Student = QueryOutput<'people.student'>
