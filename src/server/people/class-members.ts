import { sql } from 'kysely'
import { z } from 'zod'
import { civilDate, id } from '@/core/inputs'
import { defineQuery } from '@/server/platform/define'
import { classTeachers } from '@/server/school/facts'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { moveStudents, seeClassMembers } from './rights'

/** Everyone who was, is or will be in a class, with from when until when. Two statements. */
export const classMembers = defineQuery({
  input: z.object({ classId: id, date: civilDate }),
  right: seeClassMembers,
  topics: () => [rollTopic(), yearTopic()],
  run: async (context, { classId, date }) => {
    const { db } = context
    const [about, { rows: members }, mayMove] = await Promise.all([
      db
        .selectFrom('class as c')
        .innerJoin('course as k', 'k.id', 'c.courseId')
        .innerJoin('subject as s', 's.id', 'k.subjectId')
        .innerJoin('yearGroup as g', 'g.id', 'k.yearGroupId')
        .leftJoin('room as r', 'r.id', 'c.roomId')
        .select([
          'c.id',
          'c.name',
          's.name as subject',
          'g.name as yearGroup',
          'r.name as room',
          classTeachers('c.id', date).as('teachers'),
        ])
        .where('c.id', '=', classId)
        .executeTakeFirstOrThrow(),
      sql<{
        id: string
        number: number | null
        name: string
        yearGroup: string | null
        homeroom: string | null
        rollVersion: number
        from: string
        until: string | null
      }>`
        select s.id, s.number, s.sort_name as name, g.name as year_group, h.name as homeroom, s.roll_version,
          lower(m.period)::text as "from", upper(m.period)::text as until
        from class_member m join student s on s.school_id = m.school_id and s.id = m.student_id
          left join enrolment e on e.school_id = s.school_id and e.student_id = s.id and e.period @> ${date}::date
          left join year_group g on g.school_id = e.school_id and g.id = e.year_group_id
          left join homeroom_member r on r.school_id = s.school_id and r.student_id = s.id and r.period @> ${date}::date
          left join homeroom h on h.school_id = r.school_id and h.id = r.homeroom_id
        where m.class_id = ${classId} order by s.sort_name, s.number, lower(m.period)`.execute(db),
      context.may(moveStudents, {}),
    ])
    return { class: about, members, mayMove }
  },
})
