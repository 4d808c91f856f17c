import type { Context } from '@/server/platform/context'
import { firstDayOf, holds } from './facts'

/** Who is in any class on a date, in name order, with the date they joined it. */
const members = ({ db }: Pick<Context, 'db'>, date: string) =>
  db
    .selectFrom('classMember as m')
    .innerJoin('student as s', (j) =>
      j.onRef('s.schoolId', '=', 'm.schoolId').onRef('s.id', '=', 'm.studentId'),
    )
    .select(['s.id', 's.sortName as name', 's.number', firstDayOf('m.period').as('since')])
    .where(holds('m.period', date))
    .orderBy('s.sortName')
    .orderBy('s.number')

/** Members of a class on a date, in name order, with the date they joined it. */
export const membersOf = (context: Pick<Context, 'db'>, classId: string, date: string) =>
  members(context, date).where('m.classId', '=', classId).execute()

/** The members of several classes on a date, each with the class. */
export const membersOfAll = (context: Context, classIds: readonly string[], date: string) =>
  members(context, date)
    .select('m.classId')
    .where('m.classId', 'in', [...classIds])
    .execute()
