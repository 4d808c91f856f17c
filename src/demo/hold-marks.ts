import { sql, type Transaction } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Tables } from '@/db/tables'
import { keepValues } from '@/server/marks'

/** What handing in confirms: the marks of the class and term as they are on the day. */
export async function holdMarks(
  db: Transaction<Tables>,
  today: string,
  school: { readonly id: string },
): Promise<void> {
  const { rows } = await sql<{ classId: string; termId: string; changedBy: string; changedAt: string }>`
    select e.class_id, r.term_id, e.changed_by, e.changed_at from class_entries e
    join report_round r on r.school_id = e.school_id and r.id = e.round_id
    where e.state = 'handed in' order by e.class_id`.execute(db)
  for (const { classId, termId, changedBy, changedAt } of rows) {
    const id = uuid()
    const period = { termId, periodId: null }
    await db
      .insertInto('classMarks')
      .values({
        schoolId: school.id,
        id,
        classId,
        ...period,
        state: 'confirmed',
        reason: null,
        changedBy,
        changedAt,
      })
      .execute()
    await keepValues({ db, today, actor: { schoolId: school.id } }, id, { classId, period })
  }
}
