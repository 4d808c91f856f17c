import { dayWithin } from '@/core/calendar/school-year'
import { sql } from 'kysely'
import type { CardContents, CardLine } from '@/core/reports/card'
import type { Effort, EntriesState } from '@/core/reports/entries'
import type { ReportLine } from '@/core/reports/feeds'
import { loadFigures } from '@/server/attendance'
import { marksOf } from '@/server/marks'
import type { Context } from '@/server/platform/context'
import { classTeachers, homeroomTeachers } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { loadFeeds, valuesOf, type FedValue } from './load-feeds'

interface Placed {
  studentId: string
  sortName: string
  name: string
  number: number | null
  yearGroup: string
  homeroomId: string | null
  homeroom: string | null
  homeroomTeacher: string | null
}

interface LineRow {
  studentId: string
  classId: string
  className: string
  subject: string
  teacher: string | null
  state: EntriesState
  since: string
  effort: Effort | null
  comment: string | null
  scaleId: string
}

/** What stands in the columns of a card, and what stands under a subject: every other line with its name. */
function shownOnCard(lines: readonly ReportLine[], values: readonly FedValue[]) {
  const first = lines.find((l) => l.kind === 'mark')?.id
  return {
    first: values.find((v) => v.lineId === first),
    more: values
      .filter((v) => v.lineId !== first)
      .map(({ name, mark, grade }) => ({ name, value: [mark, grade].filter(Boolean).join(' ') })),
  }
}

/** A round with its term, as stored. */
export async function loadRound({ db }: Context, roundId: string) {
  return db
    .selectFrom('reportRound as r')
    .innerJoin('term as t', 't.id', 'r.termId')
    .innerJoin('academicYear as y', 'y.id', 'r.yearId')
    .select([
      'r.id',
      'r.name',
      'r.termId',
      'r.yearId',
      'r.dueOn',
      'r.commentLimit',
      't.name as term',
      't.firstDay',
      't.lastDay',
      'y.name as year',
    ])
    .where('r.id', '=', roundId)
    .executeTakeFirstOrThrow()
}

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
  const on = dayWithin(round, today)
  const { rows: students } = await sql<Placed>`
    select s.id as student_id, s.sort_name, coalesce(s.preferred_name, s.legal_given_name) || ' ' || s.legal_family_name as name, s.number,
      g.name as year_group, h.id as homeroom_id, h.name as homeroom,
      ${homeroomTeachers('h.id', on)} as homeroom_teacher
    from enrolment e join student s on s.school_id = e.school_id and s.id = e.student_id
    join year_group g on g.school_id = e.school_id and g.id = e.year_group_id
    join report_round_year_group rg on rg.school_id = e.school_id and rg.round_id = ${roundId} and rg.year_group_id = g.id
    left join homeroom_member m on m.school_id = e.school_id and m.student_id = s.id and m.period @> ${on}::date
    left join homeroom h on h.school_id = m.school_id and h.id = m.homeroom_id
    where e.period @> ${on}::date
      and (${of.homeroomId ?? null}::uuid is null or h.id = ${of.homeroomId ?? null}::uuid)
      and (${of.studentIds ?? null}::uuid[] is null or s.id = any(${of.studentIds ?? null}::uuid[]))
    order by g.position, h.name, s.sort_name, s.number`.execute(db)
  const ids = students.map((s) => s.studentId)
  const year = await loadYear(db, round.firstDay)
  if (!year) throw new Error('a round belongs to an academic year')
  const [lines, figures, bands] = await Promise.all([
    sql<LineRow>`
      select m.student_id, c.id as class_id, c.name as class_name, s.name as subject, c.scale_id, ce.state, e.effort, e.comment,
        lower(m.period)::text as since, ${classTeachers('c.id', on)} as teacher
      from class_entries ce join class c on c.school_id = ce.school_id and c.id = ce.class_id
      join course k on k.school_id = c.school_id and k.id = c.course_id join subject s on s.school_id = k.school_id and s.id = k.subject_id
      join class_member m on m.school_id = c.school_id and m.class_id = c.id and m.period @> ${on}::date
      left join report_entry e on e.school_id = ce.school_id and e.round_id = ce.round_id and e.class_id = ce.class_id and e.student_id = m.student_id
      where ce.round_id = ${roundId} and m.student_id = any(${ids}::uuid[])
      order by s.position, c.name`.execute(db),
    loadFigures(context, year, ids, round.firstDay, on),
    db
      .selectFrom('gradingBand')
      .selectAll()
      .where('startsOn', '=', sql<string>`kedge_scale_day(scale_id, ${round.termId})`)
      .orderBy('fromPercent', 'desc')
      .execute(),
  ])
  const classIds = [...new Set(lines.rows.map((l) => l.classId))]
  const [marks, feeds] = await Promise.all([
    marksOf(context, classIds, { termId: round.termId, periodId: null }, 'where open'),
    loadFeeds(context, roundId),
  ])
  const linesOf = new Map<string, LineRow[]>(ids.map((id) => [id, []]))
  for (const line of lines.rows) linesOf.get(line.studentId)?.push(line)

  const toLine = (row: LineRow): CardLine => {
    const values = valuesOf(feeds, marks.get(row.classId), { id: row.studentId, since: row.since })
    const { first, more } = shownOnCard(feeds.lines, values)
    return {
      subject: row.subject,
      className: row.className,
      teacher: row.teacher ?? '',
      mark: first?.mark,
      grade: first?.grade,
      effort: row.effort,
      comment: row.comment ?? '',
      checked: row.state === 'checked' || row.state === 'released',
      ...(more.length > 0 ? { more } : {}),
    }
  }
  return students.map((s): CardContents => {
    const own = linesOf.get(s.studentId) ?? []
    const cardLines = own.map(toLine)
    const figure = figures.get(s.studentId)
    if (!figure) throw new Error('figures are answered for every student asked')
    return {
      school: actor.schoolName,
      round: round.name,
      year: round.year,
      term: round.term,
      student: {
        id: s.studentId,
        name: s.name,
        number: s.number,
        yearGroup: s.yearGroup,
        homeroom: s.homeroom ?? '',
      },
      homeroomTeacher: s.homeroomTeacher ?? '',
      lines: cardLines,
      toFollow: [],
      attendance: figure,
      scale: bands
        .filter((b) => b.scaleId === own[0]?.scaleId)
        .map((b) => ({ grade: b.grade, fromPercent: Number(b.fromPercent).toString() })),
      final: cardLines.length > 0 && cardLines.every((l) => l.checked),
      issue: 1,
      printedOn: today,
    }
  })
}
