import { sql } from 'kysely'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { hasRole } from '@/server/platform/actor'
import { civilDate } from '@/server/platform/inputs'
import { defineQuery, onlyRoles, type Context } from '@/server/platform/registry'
import { staffRoles } from '@/server/platform/relations'
import { clockIsSet } from '@/server/platform/clock'
import { dueItems } from '@/server/today/due-items'
import { loadYear } from './load-year'

async function ownClasses({ db, actor }: Context, date: string) {
  const { rows } = await sql<{ id: string; name: string; kind: 'homeroom' | 'class' }>`
    select h.id, h.name, 'homeroom' as kind, 0 as rank from homeroom_teacher t join homeroom h on h.school_id = t.school_id and h.id = t.homeroom_id
    where t.staff_id = ${actor.personId} and t.period @> ${date}::date
    union all
    select c.id, c.name, 'class', 1 from class_teacher t join class c on c.school_id = t.school_id and c.id = t.class_id
    where t.staff_id = ${actor.personId} and t.period @> ${date}::date
    order by rank, name`.execute(db)
  return rows
}

/** What stands around every page: school, year line, rail, own classes, and how much is due. */
export const shell = defineQuery({
  name: 'year.shell',
  input: z.object({ date: civilDate.optional() }),
  allow: () => true,
  topic: () => 'today',
  run: async (context, { date: asked }) => {
    const { db, actor, today, now } = context
    const date = asked ?? today
    const year = await loadYear(db, date)
    const staff = hasRole(actor, ...staffRoles)
    const [classes, due, flags] = await Promise.all([
      staff ? ownClasses(context, date) : [],
      staff ? dueItems(context, today) : [],
      staff && year
        ? db
            .selectFrom('report_round')
            .select(['name', 'due_on as date'])
            .where('year_id', '=', year.id)
            .orderBy('due_on')
            .execute()
        : [],
    ])
    return {
      actor: { accountId: actor.accountId, name: actor.name, username: actor.username, role: actor.role },
      schoolId: actor.schoolId,
      schoolName: actor.schoolName,
      year,
      term: year && termShownOn(year, date),
      today,
      date,
      now: now.toISOString(),
      timeZone: actor.timeZone,
      demo: clockIsSet(),
      classes,
      dueCount: due.length,
      flags,
    }
  },
})

/** The academic year with its structure: year groups, homerooms and their numbers. */
export const structure = defineQuery({
  name: 'year.structure',
  input: z.object({ date: civilDate }),
  allow: onlyRoles(...staffRoles),
  run: async ({ db }, { date }) => {
    const year = await loadYear(db, date)
    const { rows } = await sql<{
      year_group: string
      homeroom: string | null
      teacher: string | null
      students: number
    }>`
      select g.name as year_group, h.name as homeroom,
        (select string_agg(s.sort_name, '; ' order by s.sort_name) from homeroom_teacher t
          join staff_member s on s.school_id = t.school_id and s.id = t.staff_id
          where t.school_id = h.school_id and t.homeroom_id = h.id and t.period @> ${date}::date) as teacher,
        (select count(*)::int from homeroom_member m where m.school_id = h.school_id and m.homeroom_id = h.id and m.period @> ${date}::date) as students
      from year_group g left join homeroom h on h.school_id = g.school_id and h.year_group_id = g.id and h.year_id = ${year?.id ?? null}
      order by g.position, h.name`.execute(db)
    return { year, homerooms: rows }
  },
})
