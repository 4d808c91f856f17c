import type { QueryOutput } from '@/server/registry'

export type Student = Correctable['students'][number]

export type Correctable = QueryOutput<'attendance.correctable'>
