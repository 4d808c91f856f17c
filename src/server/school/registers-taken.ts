import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'

/** The first day of which there is a mark in a register, YYYY-MM-DD; undefined where none was taken. */
export async function firstTaken(
  { db }: Pick<Context, 'db'>,
  { lessonsAlone = false } = {},
): Promise<string | undefined> {
  const { rows } = await sql<{ from: string | null }>`
    select min(session_date)::text as "from" from attendance_mark
    where ${lessonsAlone ? sql`class_id is not null` : sql`true`}`.execute(db)
  return rows[0]?.from ?? undefined
}

/** How many marks the register of a lesson has. */
export async function marksOfLesson(
  { db }: Context,
  { classId, date, period }: { readonly classId: string; readonly date: string; readonly period: number },
): Promise<number> {
  const { rows } = await sql<{ n: number }>`select count(*)::int as n from attendance_mark
    where class_id = ${classId} and session_date = ${date} and session = ${String(period)} and code_id is not null`.execute(
    db,
  )
  return rows[0]?.n ?? 0
}

/** How many marks of lessons are kept of sessions that do not take place any more. */
export async function keptOfLessons({ db }: Context): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    select count(*)::int as n from attendance_mark where kept and class_id is not null`.execute(db)
  return rows[0]?.n ?? 0
}

/** How many registers of lessons were taken on some days, both included. */
export async function lessonRegistersTaken(
  { db }: Context,
  { firstDay, lastDay }: { readonly firstDay: string; readonly lastDay: string | null },
): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    select count(distinct (class_id, session_date, session))::int as n from attendance_mark
    where class_id is not null and session_date >= ${firstDay} and session_date <= coalesce(${lastDay}::date, 'infinity')`.execute(
    db,
  )
  return rows[0]?.n ?? 0
}

/** Whether any register was taken on some days, both included. */
export async function anyTaken(
  { db }: Context,
  { firstDay, lastDay }: { readonly firstDay: string; readonly lastDay: string },
): Promise<boolean> {
  const { rows } = await sql<{ any: boolean }>`select exists (
    select 1 from attendance_mark where session_date between ${firstDay} and ${lastDay}) as any`.execute(db)
  return rows[0]?.any ?? false
}
