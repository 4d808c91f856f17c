import { sql } from 'kysely'
import { z } from 'zod'
import { termMark } from '@/core/marks/term-mark'
import { hasRole } from '@/server/platform/actor'
import { id } from '@/server/platform/inputs'
import { defineQuery, onlyRoles } from '@/server/platform/registry'
import { loadGradebooks } from '@/server/marks/load-gradebooks'
import { membersOf } from '@/server/marks/queries'
import { loadCards, loadRound, readingDate } from './load-cards'
import { mayPrintCards, mayReadEntries, maySeeRound } from './policy'

/** The topic of a round and all its class entries. */
export const roundTopic = (roundId: string) => `round:${roundId}`

/** Report rounds, newest first. */
export const rounds = defineQuery({
  name: 'reports.rounds',
  input: z.object({}),
  allow: onlyRoles('administrator', 'head', 'office', 'teacher'),
  run: async ({ db }) => {
    const { rows } = await sql<{
      id: string
      name: string
      due_on: string
      year_groups: string
      classes: number
      writing: number
      handed_in: number
      checked: number
      released: number
    }>`
      select r.id, r.name, r.due_on,
        (select string_agg(g.name, ', ' order by g.position) from report_round_year_group x join year_group g on g.school_id = x.school_id and g.id = x.year_group_id
          where x.school_id = r.school_id and x.round_id = r.id) as year_groups,
        count(e.class_id)::int as classes, count(*) filter (where e.state in ('writing', 'sent back'))::int as writing,
        count(*) filter (where e.state = 'handed in')::int as handed_in, count(*) filter (where e.state = 'checked')::int as checked,
        count(*) filter (where e.state = 'released')::int as released
      from report_round r left join class_entries e on e.school_id = r.school_id and e.round_id = r.id
      group by r.school_id, r.id order by r.due_on desc`.execute(db)
    return rows
  },
})

/** How a round stands: every class's entries, its homerooms, and what was released. */
export const round = defineQuery({
  name: 'reports.round',
  input: z.object({ roundId: id }),
  allow: maySeeRound,
  topic: ({ roundId }) => roundTopic(roundId),
  run: async (context, { roundId }) => {
    const { db, actor, today } = context
    const stored = await loadRound(context, roundId)
    const on = readingDate(stored, today)
    const [classes, homerooms, cards] = await Promise.all([
      sql<{
        id: string
        name: string
        subject: string
        teachers: string | null
        state: string
        remark: string | null
        changed_by: string | null
        changed_at: Date | null
        own: boolean
        students: number
        commented: number
        efforts: number
      }>`
        select c.id, c.name, s.name as subject, e.state, e.remark, e.changed_by, e.changed_at,
          (select string_agg(f.given_name || ' ' || f.family_name, ', ') from class_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
            where t.school_id = c.school_id and t.class_id = c.id and t.period @> ${on}::date) as teachers,
          exists (select 1 from class_teacher t where t.school_id = c.school_id and t.class_id = c.id and t.staff_id = ${actor.personId} and t.period @> ${today}::date) as own,
          count(m.student_id)::int as students, count(*) filter (where x.comment ~ '\\S')::int as commented, count(x.effort)::int as efforts
        from class_entries e join class c on c.school_id = e.school_id and c.id = e.class_id
        join course k on k.school_id = c.school_id and k.id = c.course_id join subject s on s.school_id = k.school_id and s.id = k.subject_id
        left join class_member m on m.school_id = c.school_id and m.class_id = c.id and m.period @> ${on}::date
        left join report_entry x on x.school_id = e.school_id and x.round_id = e.round_id and x.class_id = e.class_id and x.student_id = m.student_id
        where e.round_id = ${roundId}
        group by c.school_id, c.id, c.name, s.name, s.position, e.state, e.remark, e.changed_by, e.changed_at order by s.position, c.name`.execute(
        db,
      ),
      sql<{ id: string; name: string; students: number; own: boolean }>`
        select h.id, h.name, count(m.student_id)::int as students,
          exists (select 1 from homeroom_teacher t where t.school_id = h.school_id and t.homeroom_id = h.id and t.staff_id = ${actor.personId} and t.period @> ${today}::date) as own
        from homeroom h join report_round_year_group rg on rg.school_id = h.school_id and rg.year_group_id = h.year_group_id and rg.round_id = ${roundId}
        left join homeroom_member m on m.school_id = h.school_id and m.homeroom_id = h.id and m.period @> ${on}::date
        where h.year_id = ${stored.year_id} group by h.school_id, h.id, h.name order by h.name`.execute(db),
      db
        .selectFrom('report_card')
        .select(({ fn }) => fn.countAll<string>().as('n'))
        .where('round_id', '=', roundId)
        .where('replaced_at', 'is', null)
        .executeTakeFirstOrThrow(),
    ])
    const lead = hasRole(actor, 'administrator', 'head')
    return {
      ...stored,
      classes: classes.rows.map((c) => ({ ...c, changed_at: c.changed_at?.toISOString() ?? null })),
      homerooms: homerooms.rows.filter((h) => h.own || hasRole(actor, 'administrator', 'head', 'office')),
      cardsReleased: Number(cards.n),
      mayCheck: lead,
      mayPrintAll: hasRole(actor, 'administrator', 'head', 'office'),
    }
  },
})

/** One class's entries: each student with mark and grade fed from the gradebook, effort and comment. */
export const classEntries = defineQuery({
  name: 'reports.classEntries',
  input: z.object({ roundId: id, classId: id }),
  allow: mayReadEntries,
  topic: ({ roundId }) => roundTopic(roundId),
  run: async (context, { roundId, classId }) => {
    const { db, actor, today } = context
    const stored = await loadRound(context, roundId)
    const on = readingDate(stored, today)
    const [schoolClass, state, students, entries, books, siblings] = await Promise.all([
      db.selectFrom('class').select(['id', 'name']).where('id', '=', classId).executeTakeFirstOrThrow(),
      db
        .selectFrom('class_entries')
        .select(['state', 'remark', 'changed_by', 'changed_at', 'version'])
        .where('round_id', '=', roundId)
        .where('class_id', '=', classId)
        .executeTakeFirstOrThrow(),
      membersOf(context, classId, on),
      db
        .selectFrom('report_entry')
        .selectAll()
        .where('round_id', '=', roundId)
        .where('class_id', '=', classId)
        .execute(),
      loadGradebooks(db, [classId], stored.term_id),
      db
        .selectFrom('class_entries as e')
        .innerJoin('class as c', 'c.id', 'e.class_id')
        .select(['c.id', 'c.name', 'e.state'])
        .where('e.round_id', '=', roundId)
        .orderBy('c.name')
        .execute(),
    ])
    const book = books.get(classId)
    const entryOf = new Map(entries.map((e) => [e.student_id, e]))
    const lead = hasRole(actor, 'administrator', 'head')
    return {
      round: {
        id: stored.id,
        name: stored.name,
        dueOn: stored.due_on,
        commentLimit: stored.comment_limit,
        term: stored.term,
        /** The day whose gradebook the marks are read from; undefined for today. */
        readOn: on === today ? undefined : on,
      },
      class: schoolClass,
      ...state,
      changed_at: state.changed_at?.toISOString() ?? null,
      mayWrite: !lead,
      mayCheck: lead,
      waiting: lead
        ? siblings
            .filter((s) => s.state === 'handed in' && s.id !== classId)
            .map((s) => ({ id: s.id, name: s.name }))
        : [],
      rows: students.map((s) => {
        const entry = entryOf.get(s.id)
        const live = book ? termMark(book, book.entriesOf(s.id), on) : undefined
        return {
          studentId: s.id,
          name: s.name,
          since: s.since,
          mark: entry?.handed_mark ?? live?.mark,
          grade: entry?.handed_grade ?? live?.grade,
          /** What the gradebook says now, where it differs from what was handed in. */
          markNow: entry?.handed_mark != null && live?.mark !== entry.handed_mark ? live?.mark : undefined,
          effort: entry?.effort ?? null,
          comment: entry?.comment ?? '',
          version: entry?.version ?? 0,
          changedBy: entry?.changed_by ?? null,
        }
      }),
    }
  },
})

/** The contents of some students' cards as they stand now; not final until every line is checked. */
export const cardPreview = defineQuery({
  name: 'reports.cardPreview',
  input: z.object({ roundId: id, homeroomId: id, studentId: id }),
  allow: mayPrintCards,
  run: (context, { roundId, homeroomId, studentId }) =>
    loadCards(context, roundId, { homeroomId, studentIds: [studentId] }),
})

/** The homeroom's students, for choosing a card to look at. */
export const cardList = defineQuery({
  name: 'reports.cardList',
  input: z.object({ roundId: id, homeroomId: id }),
  allow: mayPrintCards,
  topic: ({ roundId }) => roundTopic(roundId),
  run: async (context, { roundId, homeroomId }) => {
    const { db, today } = context
    const stored = await loadRound(context, roundId)
    const on = readingDate(stored, today)
    const { rows } = await sql<{
      id: string
      name: string
      lines: number
      checked: number
      issue: number | null
      released_at: Date | null
      left_out: string[] | null
      document_id: string | null
    }>`
      select s.id, s.sort_name as name, count(e.class_id)::int as lines, count(*) filter (where e.state in ('checked', 'released'))::int as checked,
        c.issue, c.released_at, c.left_out, c.document_id
      from homeroom_member m join student s on s.school_id = m.school_id and s.id = m.student_id
      left join class_member k on k.school_id = s.school_id and k.student_id = s.id and k.period @> ${on}::date
      left join class_entries e on e.school_id = k.school_id and e.class_id = k.class_id and e.round_id = ${roundId}
      left join report_card c on c.school_id = s.school_id and c.student_id = s.id and c.round_id = ${roundId} and c.replaced_at is null
      where m.homeroom_id = ${homeroomId} and m.period @> ${on}::date
      group by s.school_id, s.id, s.sort_name, s.number, c.issue, c.released_at, c.left_out, c.document_id order by s.sort_name, s.number`.execute(
      db,
    )
    const homeroom = await db
      .selectFrom('homeroom')
      .select(['id', 'name'])
      .where('id', '=', homeroomId)
      .executeTakeFirstOrThrow()
    return {
      round: { id: stored.id, name: stored.name },
      homeroom,
      students: rows.map((r) => ({ ...r, released_at: r.released_at?.toISOString() ?? null })),
    }
  },
})

/** A guardian's released cards of the own children: the newest issue of each, and those it replaced. */
export const myCards = defineQuery({
  name: 'reports.myCards',
  input: z.object({}),
  allow: onlyRoles('guardian'),
  run: async ({ db, actor }) => {
    const cards = await db
      .selectFrom('report_card as c')
      .innerJoin('guardianship as g', 'g.student_id', 'c.student_id')
      .innerJoin('student as s', 's.id', 'c.student_id')
      .innerJoin('report_round as r', 'r.id', 'c.round_id')
      .select([
        'c.id',
        'c.issue',
        'c.document_id',
        'c.released_at',
        'c.replaced_at',
        'c.left_out',
        's.sort_name',
        'r.name as round',
      ])
      .where('g.guardian_id', '=', actor.personId)
      .where('g.may_receive_reports', '=', true)
      .orderBy('c.released_at', 'desc')
      .execute()
    return cards.map((c) => ({
      ...c,
      released_at: c.released_at.toISOString(),
      replaced_at: c.replaced_at?.toISOString() ?? null,
    }))
  },
})
