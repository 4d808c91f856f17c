import { sql } from 'kysely'
import { z } from 'zod'
import { dayWithin } from '@/core/calendar/school-year'
import { id } from '@/core/inputs'
import { settingsInput } from '@/core/marks/inputs'
import { settingsOf, withSettings, type GradebookSettings } from '@/core/marks/settings'
import { termMark } from '@/core/marks/term-mark'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { membersOfAll } from '@/server/school/members'
import { loadGradebooks, loadSettings } from './load-gradebooks'
import { enterScores, enterScoresInAll } from './rights'

/** A gradebook whose settings can be taken over. */
interface Source {
  readonly classId: string
  readonly termId: string
  /** `7 Science A, Autumn`, with the teachers where they are others. */
  readonly name: string
  readonly settings: GradebookSettings
  /** The names of its columns, which can come along. */
  readonly columns: readonly string[]
}

/** The gradebooks that one can be set up like: of the actor's own other classes and terms, and of colleagues who teach the course. */
export async function offeredSources(
  context: Context,
  classId: string,
  termId: string,
): Promise<readonly Omit<Source, 'settings'>[]> {
  const { db, actor, today } = context
  const { rows } = await sql<Omit<Source, 'settings'>>`
        select g.class_id, g.term_id, c.name || ', ' || t.name || case when own.teaches then '' else coalesce(' (' || staff.names || ')', '') end as name,
          array(select m.name from mark_column m where m.school_id = g.school_id and m.class_id = g.class_id
            and (m.term_id = g.term_id or (m.term_id is null and c.id <> asked.id)) order by m.position) as columns
        from class asked
        join course k on k.school_id = asked.school_id and k.id = asked.course_id
        join class c on c.school_id = asked.school_id and c.year_id = asked.year_id
        join gradebook g on g.school_id = c.school_id and g.class_id = c.id
        join term t on t.school_id = g.school_id and t.id = g.term_id
        cross join lateral (select ${whereMay(context, enterScores, sql.ref('c.id'))} as teaches) own
        left join lateral (select string_agg(f.given_name || ' ' || f.family_name, ', ' order by f.sort_name) as names
          from class_teacher ct join staff_member f on f.school_id = ct.school_id and f.id = ct.staff_id
          where ct.school_id = c.school_id and ct.class_id = c.id and ct.period @> ${today}::date) staff on true
        where asked.id = ${classId} and (g.class_id, g.term_id) <> (${classId}::uuid, ${termId}::uuid)
          and (own.teaches or c.course_id = asked.course_id) and t.first_day <= ${today}::date
          and ${actor.staffId}::uuid is not null
        order by c.id <> asked.id, not own.teaches, t.first_day desc, c.name limit 40`.execute(db)
  return rows
}

/**
 * What the settings of a gradebook can be shared with: the actor's other classes of the term, with the version of each
 * gradebook; and the settings of the actor's other terms and of colleagues who teach the course.
 */
export const settingsOffers = defineQuery({
  input: z.object({ classId: id, termId: id }),
  right: enterScores,
  run: async (context, { classId, termId }) => {
    const { db } = context
    const [targets, sources] = await Promise.all([
      sql<{ classId: string; name: string; version: number; categories: string[] }>`
        select c.id as class_id, c.name, coalesce(g.version, 0) as version,
          array(select k.name from category k where k.school_id = c.school_id and k.class_id = c.id and k.term_id = t.term_id order by k.position) as categories
        from class_term t join class c on c.school_id = t.school_id and c.id = t.class_id
        left join gradebook g on g.school_id = t.school_id and g.class_id = t.class_id and g.term_id = t.term_id
        where t.term_id = ${termId} and c.id <> ${classId} and ${whereMay(context, enterScores, sql.ref('c.id'))}
        order by c.name, c.id`.execute(db),
      offeredSources(context, classId, termId),
    ])
    const settings = await loadSettings(db, sources)
    return {
      targets: targets.rows,
      sources: sources.flatMap((s): Source[] => {
        const found = settings.get(`${s.classId} ${s.termId}`)
        return found ? [{ ...s, settings: settingsOf(found) }] : []
      }),
    }
  },
})

/** What settings would do to the term marks of the classes they are for, as of today; nothing is saved. */
export const settingsPreview = defineQuery({
  input: settingsInput,
  right: enterScoresInAll,
  run: async (context, { termId, targets, ...settings }) => {
    const { db, today } = context
    const classIds = targets.map((t) => t.classId)
    const term = await db
      .selectFrom('term')
      .select(['firstDay', 'lastDay'])
      .where('id', '=', termId)
      .executeTakeFirst()
    if (!term) return []
    const on = dayWithin(term, today)
    const [books, members, names] = await Promise.all([
      loadGradebooks(db, classIds, termId),
      membersOfAll(context, classIds, on),
      db.selectFrom('class').select(['id', 'name']).where('id', 'in', classIds).orderBy('name').execute(),
    ])
    return names.map(({ id: classId, name }) => {
      const own = members.filter((m) => m.classId === classId)
      const book = books.get(classId)
      const after = book && withSettings(book, settings)
      const marks = own.map((student) => {
        if (!book || !after) return { ...student, before: null, after: null }
        const entries = book.entriesOf(student.id)
        const dates = { on: today, since: student.since }
        return {
          ...student,
          before: termMark(book, entries, dates).mark ?? null,
          after: termMark(after, entries, dates).mark ?? null,
        }
      })
      return {
        classId,
        name,
        isNew: !book,
        students: own.length,
        changes: marks
          .filter((m) => m.before !== m.after)
          .map((m) => ({ studentId: m.id, name: m.name, before: m.before, after: m.after })),
      }
    })
  },
})
