import { sql } from 'kysely'
import { termMark } from '@/core/marks/term-mark'
import type { CardContents, CardLine } from '@/core/reports/card'
import type { Effort } from '@/core/reports/entries'
import { loadFigures } from '@/server/attendance/load-figures'
import { loadGradebooks } from '@/server/marks/load-gradebooks'
import type { Context } from '@/server/platform/registry'
import { loadYear } from '@/server/year/load-year'

interface Placed {
  student_id: string
  sort_name: string
  name: string
  number: number | null
  year_group: string
  homeroom_id: string | null
  homeroom: string | null
  homeroom_teacher: string | null
}

interface LineRow {
  student_id: string
  class_id: string
  class_name: string
  subject: string
  teacher: string | null
  state: string
  effort: Effort | null
  comment: string | null
  handed_mark: string | null
  handed_grade: string | null
  scale_id: string
}

/** A round with its term, as stored. */
export async function loadRound({ db }: Context, roundId: string) {
  return db
    .selectFrom('report_round as r')
    .innerJoin('term as t', 't.id', 'r.term_id')
    .innerJoin('academic_year as y', 'y.id', 'r.year_id')
    .select([
      'r.id',
      'r.name',
      'r.term_id',
      'r.year_id',
      'r.due_on',
      'r.comment_limit',
      't.name as term',
      't.first_day',
      't.last_day',
      'y.name as year',
    ])
    .where('r.id', '=', roundId)
    .executeTakeFirstOrThrow()
}

/** The last day of the round's term that counts on a date: marks and attendance do not look into the future. */
export const readingDate = (round: { first_day: string; last_day: string }, date: string) =>
  date < round.first_day ? round.first_day : date > round.last_day ? round.last_day : date

/**
 * The contents of many students' cards, set-based: the number of statements does not grow with the students.
 * @param of one homeroom, some students, or everyone in the round's year groups
 * @returns cards in the order of homeroom and name
 */
export async function loadCards(
  context: Context,
  roundId: string,
  of: { homeroomId?: string | null; studentIds?: readonly string[] | null },
): Promise<readonly CardContents[]> {
  const { db, today, actor } = context
  const round = await loadRound(context, roundId)
  const on = readingDate(round, today)
  const { rows: students } = await sql<Placed>`
    select s.id as student_id, s.sort_name, coalesce(s.preferred_name, s.legal_given_name) || ' ' || s.legal_family_name as name, s.number,
      g.name as year_group, h.id as homeroom_id, h.name as homeroom,
      (select string_agg(f.given_name || ' ' || f.family_name, ', ') from homeroom_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
        where t.school_id = h.school_id and t.homeroom_id = h.id and t.period @> ${on}::date) as homeroom_teacher
    from enrolment e join student s on s.school_id = e.school_id and s.id = e.student_id
    join year_group g on g.school_id = e.school_id and g.id = e.year_group_id
    join report_round_year_group rg on rg.school_id = e.school_id and rg.round_id = ${roundId} and rg.year_group_id = g.id
    left join homeroom_member m on m.school_id = e.school_id and m.student_id = s.id and m.period @> ${on}::date
    left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
    where e.period @> ${on}::date
      and (${of.homeroomId ?? null}::uuid is null or h.id = ${of.homeroomId ?? null}::uuid)
      and (${of.studentIds ?? null}::uuid[] is null or s.id = any(${of.studentIds ?? null}::uuid[]))
    order by g.position, h.name, s.sort_name, s.number`.execute(db)
  const ids = students.map((s) => s.student_id)
  const year = await loadYear(db, round.first_day)
  if (!year) throw new Error('a round belongs to an academic year')
  const [lines, figures, bands] = await Promise.all([
    sql<LineRow>`
      select m.student_id, c.id as class_id, c.name as class_name, s.name as subject, c.scale_id, ce.state, e.effort, e.comment, e.handed_mark, e.handed_grade,
        (select string_agg(f.given_name || ' ' || f.family_name, ', ') from class_teacher t join staff_member f on f.school_id = t.school_id and f.id = t.staff_id
          where t.school_id = c.school_id and t.class_id = c.id and t.period @> ${on}::date) as teacher
      from class_entries ce join class c on c.school_id = ce.school_id and c.id = ce.class_id
      join course k on k.school_id = c.school_id and k.id = c.course_id join subject s on s.school_id = k.school_id and s.id = k.subject_id
      join class_member m on m.school_id = c.school_id and m.class_id = c.id and m.period @> ${on}::date
      left join report_entry e on e.school_id = ce.school_id and e.round_id = ce.round_id and e.class_id = ce.class_id and e.student_id = m.student_id
      where ce.round_id = ${roundId} and m.student_id = any(${ids}::uuid[])
      order by s.position, c.name`.execute(db),
    loadFigures(db, year, ids, round.first_day, on),
    db.selectFrom('grading_band').selectAll().orderBy('from_percent', 'desc').execute(),
  ])
  const live = [...new Set(lines.rows.filter((l) => l.handed_mark === null).map((l) => l.class_id))]
  const books = await loadGradebooks(db, live, round.term_id)
  const linesOf = new Map<string, LineRow[]>(ids.map((id) => [id, []]))
  for (const line of lines.rows) linesOf.get(line.student_id)?.push(line)

  const toLine = (row: LineRow): CardLine => {
    const book = books.get(row.class_id)
    const now =
      row.handed_mark === null && book ? termMark(book, book.entriesOf(row.student_id), on) : undefined
    return {
      subject: row.subject,
      className: row.class_name,
      teacher: row.teacher ?? '',
      mark: row.handed_mark ?? now?.mark,
      grade: row.handed_grade ?? now?.grade,
      effort: row.effort,
      comment: row.comment ?? '',
      checked: row.state === 'checked' || row.state === 'released',
    }
  }
  return students.map((s): CardContents => {
    const own = linesOf.get(s.student_id) ?? []
    const cardLines = own.map(toLine)
    const figure = figures.get(s.student_id)
    if (!figure) throw new Error('figures are answered for every student asked')
    return {
      school: actor.schoolName,
      round: round.name,
      year: round.year,
      term: round.term,
      student: {
        id: s.student_id,
        name: s.name,
        number: s.number,
        yearGroup: s.year_group,
        homeroom: s.homeroom ?? '',
      },
      homeroomTeacher: s.homeroom_teacher ?? '',
      lines: cardLines,
      toFollow: [],
      attendance: figure,
      scale: bands
        .filter((b) => b.scale_id === own[0]?.scale_id)
        .map((b) => ({ grade: b.grade, fromPercent: Number(b.from_percent).toString() })),
      final: cardLines.length > 0 && cardLines.every((l) => l.checked),
      issue: 1,
      printedOn: today,
    }
  })
}
