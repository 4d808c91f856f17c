import type { QueryOutput } from '@/server/registry'

export type Unexplained = CallList['students'][number]

export type CallList = QueryOutput<'attendance.callList'>
