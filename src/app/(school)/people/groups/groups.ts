import type { QueryOutput } from '@/server/registry'

export type Group = Groups['groups'][number]

export type Groups = QueryOutput<'people.groups'>
