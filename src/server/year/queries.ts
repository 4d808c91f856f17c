import { sql } from 'kysely'
import { z } from 'zod'
import { defineQuery } from '@/server/platform/define'
import { civilDate } from '@/core/inputs'
import { sizeByClass, homeroomSize } from '@/server/school/facts'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { loadYear } from '@/server/school/load-year'
import { seeStructure, setUpYear } from './rights'

/** The academic year around a date, with its days without school, and the other years there are. */
export const calendar = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeStructure,
  topics: () => [yearTopic()],
  run: async (context, { date }) => {
    const year = await loadYear(context.db, date)
    const [closures, terms, periods, years, mayChange] = await Promise.all([
      context.db
        .selectFrom('closure')
        .select(['id', 'kind', 'name', 'firstDay', 'lastDay', 'version'])
        .where('yearId', '=', year?.id ?? null)
        .orderBy('firstDay')
        .execute(),
      context.db
        .selectFrom('term')
        .select(['id', 'name', 'firstDay', 'lastDay', 'open', 'version'])
        .where('yearId', '=', year?.id ?? null)
        .orderBy('firstDay')
        .execute(),
      context.db
        .selectFrom('termPeriod as p')
        .innerJoin('term as t', 't.id', 'p.termId')
        .select(['p.id', 'p.termId', 'p.kind', 'p.name', 'p.firstDay', 'p.lastDay', 'p.version'])
        .where('t.yearId', '=', year?.id ?? null)
        .orderBy('p.firstDay')
        .orderBy('p.kind')
        .execute(),
      context.db
        .selectFrom('academicYear as y')
        .leftJoin('history as h', (j) =>
          j
            // Said, not passed along: the index is for such tables alone.
            .on(sql<boolean>`h.table_name = 'academic_year'`)
            .on('h.operation', '=', 'insert')
            .on(sql<boolean>`h.row_key = jsonb_build_object('id', y.id)`),
        )
        .select(['y.id', 'y.name', 'y.firstDay', 'y.lastDay', 'y.version', 'h.actor as by', 'h.at'])
        .orderBy('y.firstDay')
        .execute(),
      context.may(setUpYear, {}),
    ])
    return { year, terms, periods, years, closures, mayChange }
  },
})

const idsOf = (select: string, of: string) =>
  sql<readonly string[]>`array(${sql.raw(select)} = ${sql.ref(of)} order by 1)::text[]`

/** Classes of the year around a date, homerooms, and everything a class is made of. */
export const classesAndParts = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeStructure,
  topics: () => [yearTopic(), rollTopic()],
  run: async (context, { date }) => {
    const { db } = context
    const year = await loadYear(db, date)
    const yearId = year?.id ?? null
    const held = sql`t.period @> ${date}::date`
    const [classes, homerooms, subjects, yearGroups, rooms, staff, scales, mayChange] = await Promise.all([
      db
        .selectFrom('class as c')
        .innerJoin('course as k', 'k.id', 'c.courseId')
        .innerJoin('subject as s', 's.id', 'k.subjectId')
        .innerJoin('yearGroup as g', 'g.id', 'k.yearGroupId')
        .leftJoin(sizeByClass(date).as('n'), (j) => j.onRef('n.classId', '=', 'c.id'))
        .select([
          'c.id',
          'c.name',
          'c.version',
          'c.scaleId',
          'c.roomId',
          'k.subjectId',
          's.name as subject',
          'k.yearGroupId',
          'g.name as yearGroup',
          sql<number>`coalesce(n.students, 0)`.as('students'),
          idsOf('select term_id from class_term where class_id', 'c.id').as('termIds'),
          idsOf('select homeroom_id from homeroom_class where class_id', 'c.id').as('homeroomIds'),
          sql<
            readonly string[]
          >`array(select t.staff_id from class_teacher t where t.class_id = c.id and ${held})::text[]`.as(
            'staffIds',
          ),
        ])
        .where('c.yearId', '=', yearId)
        .orderBy('g.position')
        .orderBy('s.position')
        .orderBy('c.name')
        .execute(),
      db
        .selectFrom('homeroom as h')
        .innerJoin('yearGroup as g', 'g.id', 'h.yearGroupId')
        .select([
          'h.id',
          'h.name',
          'h.version',
          'h.yearGroupId',
          'h.roomId',
          'h.lastDay',
          'g.name as yearGroup',
          homeroomSize('h.id', date).as('students'),
          sql<
            readonly string[]
          >`array(select t.staff_id from homeroom_teacher t where t.homeroom_id = h.id and ${held})::text[]`.as(
            'staffIds',
          ),
        ])
        .where('h.yearId', '=', yearId)
        .orderBy('g.position')
        .orderBy('h.name')
        .execute(),
      db.selectFrom('subject').select(['id', 'name', 'version']).orderBy('position').execute(),
      db.selectFrom('yearGroup').select(['id', 'name', 'version']).orderBy('position').execute(),
      db.selectFrom('room').select(['id', 'name', 'version']).orderBy('name').execute(),
      db
        .selectFrom('staffMember as s')
        .select(['s.id', 's.sortName as name'])
        .where(
          sql<boolean>`exists (select 1 from membership m where m.person_id = s.id and m.role = 'teacher' and m.active)
            or exists (select 1 from class_teacher t where t.staff_id = s.id and ${held})
            or exists (select 1 from homeroom_teacher t where t.staff_id = s.id and ${held})`,
        )
        .orderBy('s.sortName')
        .execute(),
      db.selectFrom('gradingScale').select(['id', 'name']).orderBy('name').execute(),
      context.may(setUpYear, {}),
    ])
    return { year, classes, homerooms, subjects, yearGroups, rooms, staff, scales, mayChange }
  },
})
