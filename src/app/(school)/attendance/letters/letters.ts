import type { QueryOutput } from '@/server/registry'

export type Template = Letters['templates'][number]

export type Letters = QueryOutput<'attendance.letters'>
