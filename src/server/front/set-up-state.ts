import { sql } from 'kysely'
import { z } from 'zod'
import type { SetUpCounts } from '@/core/calendar/set-up'
import { civilDate } from '@/core/inputs'
import { defineQuery } from '@/server/platform/define'
import { loadYear } from '@/server/school/load-year'
import { registersTopic, rollTopic, yearTopic } from '@/server/school/topics'
import { setUpYear } from '@/server/year'

/** What the school has on a date, and what is missing, in one statement. */
export const state = defineQuery({
  input: z.object({ date: civilDate }),
  right: setUpYear,
  topics: () => [yearTopic(), rollTopic(), registersTopic()],
  run: async ({ db }, { date }): Promise<SetUpCounts> => {
    const year = await loadYear(db, date)
    const ofYear = sql`x.year_id = ${year?.id ?? null}`
    const held = (table: string) => sql`${sql.ref(`${table}.period`)} @> ${date}::date`
    const { rows } = await sql<SetUpCounts>`select
      (select count(*)::int from academic_year) as years,
      (select count(*)::int from year_group) as year_groups,
      (select count(*)::int from homeroom x where ${ofYear}) as homerooms,
      (select count(*)::int from homeroom x where ${ofYear}
        and not exists (select 1 from homeroom_teacher t where t.homeroom_id = x.id and ${held('t')})) as homerooms_without_teacher,
      (select count(*)::int from subject) as subjects,
      (select count(*)::int from class x where ${ofYear}) as classes,
      (select count(*)::int from class x where ${ofYear}
        and not exists (select 1 from class_teacher t where t.class_id = x.id and ${held('t')})) as classes_without_teacher,
      (select count(distinct m.account_id)::int from membership m where m.role = 'teacher' and m.active) as teachers,
      (select count(*)::int from enrolment e where ${held('e')}) as students,
      (select count(*)::int from enrolment e where ${held('e')}
        and not exists (select 1 from homeroom_member m where m.student_id = e.student_id and ${held('m')})) as students_without_homeroom`.execute(
      db,
    )
    return rows[0] as SetUpCounts
  },
})
