import type { Context } from '@/server/platform/context'
import { firstDayOf, holds } from './facts'

/** Members of a class on a date, in name order, with the date they joined it. */
export function membersOf({ db }: Context, classId: string, date: string) {
  return db
    .selectFrom('classMember as m')
    .innerJoin('student as s', (j) =>
      j.onRef('s.schoolId', '=', 'm.schoolId').onRef('s.id', '=', 'm.studentId'),
    )
    .select(['s.id', 's.sortName as name', 's.number', firstDayOf('m.period').as('since')])
    .where('m.classId', '=', classId)
    .where(holds('m.period', date))
    .orderBy('s.sortName')
    .orderBy('s.number')
    .execute()
}

/** The members of several classes on a date, in name order, with the date they joined. */
export function membersOfAll({ db }: Context, classIds: readonly string[], date: string) {
  return db
    .selectFrom('classMember as m')
    .innerJoin('student as s', (j) =>
      j.onRef('s.schoolId', '=', 'm.schoolId').onRef('s.id', '=', 'm.studentId'),
    )
    .select(['m.classId', 's.id', 's.sortName as name', firstDayOf('m.period').as('since')])
    .where('m.classId', 'in', [...classIds])
    .where(holds('m.period', date))
    .orderBy('s.sortName')
    .orderBy('s.number')
    .execute()
}
