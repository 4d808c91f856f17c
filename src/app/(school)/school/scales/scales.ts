import type { QueryOutput } from '@/server/registry'

export type Scale = Scales['scales'][number]

export type Scales = QueryOutput<'year.scales'>
