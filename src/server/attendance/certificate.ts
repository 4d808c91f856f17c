import { sql } from 'kysely'
import { z } from 'zod'
import type { Certificate } from '@/core/attendance/certificate'
import { civilDate, id } from '@/core/inputs'
import { spokenName } from '@/core/people/names'
import { seeDetails } from '@/server/people'
import { defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { loadYear } from '@/server/school/load-year'
import { loadFigures } from './load-figures'
import { seeFigures } from './rights'

/** What a certificate of a student's attendance says, counted from the half-days of a period. */
export const certificate = defineQuery({
  input: z.object({ id, from: civilDate, to: civilDate, date: civilDate }),
  right: seeFigures,
  run: async (context, { id: studentId, from, to, date }): Promise<Certificate> => {
    const { db, actor, today } = context
    const until = date < to ? date : to
    const year = await loadYear(db, until)
    const { rows } = await sql<{
      name: string
      number: number | null
      birthDate: string | null
      yearGroup: string | null
      homeroom: string | null
      schoolAddress: string | null
    }>`
      select s.sort_name as name, s.number, s.birth_date::text, g.name as year_group, h.name as homeroom,
        (select c.address from school c where c.id = s.school_id) as school_address from student s
      left join homeroom_member m on m.school_id = s.school_id and m.student_id = s.id and m.period @> ${until}::date
      left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
      left join year_group g on g.school_id = h.school_id and g.id = h.year_group_id
      where s.id = ${studentId}`.execute(db)
    const [student] = rows
    const figures = year && (await loadFigures(context, year, [studentId], from, until)).get(studentId)
    if (!student || !figures) throw new Refusal(notFound)
    const details = await context.may(seeDetails, { studentId })
    return {
      school: actor.schoolName,
      schoolAddress: student.schoolAddress,
      student: spokenName(student.name),
      number: student.number,
      birthDate: details ? student.birthDate : null,
      yearGroup: student.yearGroup,
      homeroom: student.homeroom,
      from,
      to: until,
      figures,
      issuedBy: actor.name,
      issuedOn: today,
    }
  },
})
