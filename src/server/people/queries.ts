import { sql } from 'kysely'
import { z } from 'zod'
import { comparableName } from '@/core/people/names'
import { termOn } from '@/core/calendar/school-year'
import { civilDate, id } from '@/server/platform/inputs'
import { defineQuery } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'
import { mayEnrol, maySeeStudent, maySeeStudents, maySeeSupport } from './policy'

/** Students on roll on a date, in name order, with year group and homeroom. */
export const list = defineQuery({
  name: 'people.list',
  input: z.object({ date: civilDate, homeroomId: id.optional() }),
  allow: maySeeStudents,
  run: async ({ db }, { date, homeroomId }) => {
    const { rows } = await sql<{
      id: string
      number: number
      name: string
      preferred: string | null
      year_group: string
      homeroom: string | null
      since: string
    }>`
      select s.id, s.number, s.sort_name as name, s.preferred_name as preferred, g.name as year_group, h.name as homeroom, lower(e.period)::text as since
      from enrolment e
      join student s on s.school_id = e.school_id and s.id = e.student_id
      join year_group g on g.school_id = e.school_id and g.id = e.year_group_id
      left join homeroom_member m on m.school_id = e.school_id and m.student_id = e.student_id and m.period @> ${date}::date
      left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
      where e.period @> ${date}::date and (${homeroomId ?? null}::uuid is null or h.id = ${homeroomId ?? null}::uuid)
      order by s.sort_name, s.number`.execute(db)
    return rows
  },
})

/** One student's record: names, places, guardians in contact order. */
export const student = defineQuery({
  name: 'people.student',
  input: z.object({ studentId: id }),
  allow: maySeeStudent,
  run: async (context, { studentId }) => {
    const { db } = context
    const record = await db
      .selectFrom('student')
      .selectAll()
      .where('id', '=', studentId)
      .executeTakeFirstOrThrow()
    const [support, guardians, places] = await Promise.all([
      maySeeSupport(context, studentId),
      db
        .selectFrom('guardianship as gs')
        .innerJoin('guardian as g', 'g.id', 'gs.guardian_id')
        .select([
          'g.id',
          'g.given_name',
          'g.family_name',
          'g.email',
          'g.phone',
          'g.language',
          'g.address',
          'gs.relation',
          'gs.contact_order',
          'gs.may_receive_reports',
        ])
        .where('gs.student_id', '=', studentId)
        .orderBy('gs.contact_order')
        .execute(),
      sql<{ kind: string; id: string; name: string; from: string; until: string | null }>`
        select 'year group' as kind, e.year_group_id as id, g.name, lower(e.period)::text as from, upper(e.period)::text as until
        from enrolment e join year_group g on g.school_id = e.school_id and g.id = e.year_group_id where e.student_id = ${studentId}
        union all
        select 'homeroom', h.id, h.name, lower(m.period)::text, upper(m.period)::text
        from homeroom_member m join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id where m.student_id = ${studentId}
        union all
        select 'class', c.id, c.name, lower(m.period)::text, upper(m.period)::text
        from class_member m join class c on c.school_id = m.school_id and c.id = m.class_id where m.student_id = ${studentId}
        order by kind desc, "from", name`.execute(db),
    ])
    return {
      id: record.id,
      number: record.number,
      legalName: `${record.legal_given_name} ${record.legal_family_name}`,
      preferredName: record.preferred_name,
      sortName: record.sort_name,
      birthDate: record.birth_date,
      address: record.address,
      ferry: record.ferry,
      supportNote: support ? record.support_note : null,
      expectedFrom: record.number === null ? record.expected_from : null,
      guardians,
      places: places.rows,
    }
  },
})

/** Students with the same name (marks and case aside) and birth date, under legal or preferred name. */
export const possibleDuplicates = defineQuery({
  name: 'people.possibleDuplicates',
  input: z.object({ givenName: z.string(), familyName: z.string(), birthDate: civilDate }),
  allow: mayEnrol,
  run: async ({ db }, { givenName, familyName, birthDate }) => {
    const born = await db
      .selectFrom('student')
      .select([
        'id',
        'number',
        'legal_given_name',
        'legal_family_name',
        'preferred_name',
        'sort_name',
        'birth_date',
        'address',
      ])
      .where('birth_date', '=', birthDate)
      .execute()
    const family = comparableName(familyName)
    const given = comparableName(givenName)
    return born.filter(
      (s) =>
        comparableName(s.legal_family_name) === family &&
        [s.legal_given_name, s.preferred_name ?? ''].some((name) => comparableName(name) === given),
    )
  },
})

/** What the enrolment form offers for a start date: homerooms with their numbers, the classes each homeroom proposes, who is expected. */
export const enrolForm = defineQuery({
  name: 'people.enrolForm',
  input: z.object({ startDate: civilDate }),
  allow: mayEnrol,
  run: async ({ db }, { startDate }) => {
    const year = await loadYear(db, startDate)
    const term = year && termOn(year, startDate)
    const [yearGroups, homerooms, classes, proposed, expected] = await Promise.all([
      db.selectFrom('year_group').select(['id', 'name']).orderBy('position').execute(),
      sql<{ id: string; name: string; year_group_id: string; students: number }>`
        select h.id, h.name, h.year_group_id, count(m.student_id)::int as students from homeroom h
        left join homeroom_member m on m.school_id = h.school_id and m.homeroom_id = h.id and m.period @> ${startDate}::date
        where h.year_id = ${year?.id ?? null} group by h.school_id, h.id, h.name, h.year_group_id order by h.name`.execute(
        db,
      ),
      sql<{ id: string; name: string; year_group_id: string; in_term: boolean; terms: string }>`
        select c.id, c.name, k.year_group_id, bool_or(t.id = ${term?.id ?? null}) is true as in_term, string_agg(t.name, ', ' order by t.first_day) as terms
        from class c join course k on k.school_id = c.school_id and k.id = c.course_id
        join class_term ct on ct.school_id = c.school_id and ct.class_id = c.id join term t on t.school_id = ct.school_id and t.id = ct.term_id
        where c.year_id = ${year?.id ?? null} group by c.school_id, c.id, c.name, k.year_group_id order by c.name`.execute(
        db,
      ),
      db.selectFrom('homeroom_class').select(['homeroom_id', 'class_id']).execute(),
      db
        .selectFrom('student')
        .select([
          'id',
          'legal_given_name',
          'legal_family_name',
          'preferred_name',
          'sort_name',
          'birth_date',
          'accepted_for',
          'expected_in',
          'expected_from',
        ])
        .where('number', 'is', null)
        .orderBy('sort_name')
        .execute(),
    ])
    return { year, term, yearGroups, homerooms: homerooms.rows, classes: classes.rows, proposed, expected }
  },
})

/** The guardians already on record for an applicant. */
export const applicantGuardians = defineQuery({
  name: 'people.applicantGuardians',
  input: z.object({ studentId: id }),
  allow: async (context, input) => mayEnrol(context) && maySeeStudent(context, input),
  run: ({ db }, { studentId }) =>
    db
      .selectFrom('guardianship as gs')
      .innerJoin('guardian as g', 'g.id', 'gs.guardian_id')
      .select(['g.given_name', 'g.family_name', 'g.email', 'g.phone', 'gs.relation'])
      .where('gs.student_id', '=', studentId)
      .orderBy('gs.contact_order')
      .execute(),
})
