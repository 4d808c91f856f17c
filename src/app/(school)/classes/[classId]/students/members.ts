import type { QueryOutput } from '@/server/registry'

export type Member = Members['members'][number]

export type Members = QueryOutput<'people.classMembers'>
