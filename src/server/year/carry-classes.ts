import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { notFound, Refusal } from '@/server/platform/failure'
import { awayFrom } from '@/server/school/leaving-staff'

export interface TermOfYear {
  readonly id: string
  readonly name: string
  readonly firstDay: string
  readonly lastDay: string
  readonly yearId: string
  readonly yearName: string
}

/** A term and the one after it, in this year or the next. */
export async function termAndNext({ db }: Context, termId: string) {
  const { rows } = await sql<TermOfYear>`
    select t.id, t.name, t.first_day, t.last_day, t.year_id, y.name as year_name
    from term t join academic_year y on y.id = t.year_id
    where t.first_day >= (select f.first_day from term f where f.id = ${termId})
    order by t.first_day limit 2`.execute(db)
  const [from, to] = rows
  if (!from) throw new Refusal(notFound)
  return { from, to }
}

/** Creates the classes that the next year does not have, with their teachers and the homerooms they belong to. */
export async function createClasses(
  { db, actor }: Context,
  pairs: readonly { readonly from: string; readonly to: string }[],
  from: TermOfYear,
  to: TermOfYear,
): Promise<void> {
  const school = actor.schoolId
  const pair = sql`unnest(${pairs.map((p) => p.from)}::uuid[], ${pairs.map((p) => p.to)}::uuid[]) p(old_id, new_id)`
  await sql`insert into class (school_id, id, year_id, course_id, scale_id, room_id, name)
    select ${school}, p.new_id, ${to.yearId}, c.course_id, c.scale_id, c.room_id, c.name
    from ${pair} join class c on c.id = p.old_id`.execute(db)
  await sql`insert into class_teacher (school_id, class_id, staff_id, period)
    select distinct ${school}::uuid, p.new_id, t.staff_id, daterange(${to.firstDay}::date, ${awayFrom('s')})
    from ${pair} join class_teacher t on t.class_id = p.old_id and t.period @> ${from.lastDay}::date
    join staff_member s on s.school_id = t.school_id and s.id = t.staff_id
    where coalesce(s.last_day, 'infinity') >= ${to.firstDay} and exists (select 1 from membership m where m.person_id = t.staff_id and m.active)`.execute(
    db,
  )
  await sql`insert into homeroom_class (school_id, homeroom_id, class_id)
    select ${school}, n.id, p.new_id
    from ${pair} join homeroom_class x on x.class_id = p.old_id join homeroom h on h.id = x.homeroom_id
      join homeroom n on n.year_id = ${to.yearId} and n.name = h.name and n.year_group_id = h.year_group_id`.execute(
    db,
  )
}
