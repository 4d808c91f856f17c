import { dayWithin } from '@/core/calendar/school-year'
import { sql } from 'kysely'
import { z } from 'zod'
import type { MarksState } from '@/core/marks/periods/state'
import { unsettled } from '@/core/reports/feeds'
import { classAssessmentsTopic } from '@/server/assessment'
import { gradebookTopic, marksOf, marksStatesTopic } from '@/server/marks'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { civilDate, id } from '@/core/inputs'
import { gather } from '@/server/platform/gather'
import { whereMay } from '@/server/platform/rights'
import { classTeachers, countWhere, isTeacherOf } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { inOtherYears } from '@/server/school/year-spans'
import { isGuardianOf } from '@/server/school/relations'
import { membersOf } from '@/server/school/members'
import { loadCards, loadRound } from './load-cards'
import { loadFeeds, valuesOf } from './load-feeds'
import {
  checkEntries,
  listRounds,
  printCards,
  readEntries,
  releaseCards,
  seeOwnCards,
  seeRound,
  writeEntries,
} from './rights'
import { entriesTopic, roundTopic } from './topics'

/** Report rounds of the academic year around a date, newest first. */
export const rounds = defineQuery({
  input: z.object({ date: civilDate }),
  right: listRounds,
  run: async (context, { date }) => {
    const year = await loadYear(context.db, date)
    const [rows, elsewhere] = await Promise.all([
      roundsOf(context, year?.id),
      inOtherYears(
        context,
        sql`select y.last_day as day from report_round r join academic_year y on y.school_id = r.school_id and y.id = r.year_id`,
        year?.id,
      ),
    ])
    return { rounds: rows, year: year?.name, elsewhere }
  },
})

const roundsOf = ({ db }: Context, yearId: string | undefined) =>
  db
    .selectFrom('reportRound as r')
    .leftJoin('classEntries as e', 'e.roundId', 'r.id')
    .select([
      'r.id',
      'r.name',
      'r.dueOn',
      sql<string>`(select string_agg(g.name, ', ' order by g.position) from report_round_year_group x join year_group g on g.school_id = x.school_id and g.id = x.year_group_id
          where x.round_id = r.id)`.as('yearGroups'),
      sql<number>`count(e.class_id)::int`.as('classes'),
      countWhere(sql`e.state in ('writing', 'sent back')`).as('writing'),
      countWhere(sql`e.state = 'handed in'`).as('handedIn'),
      countWhere(sql`e.state = 'checked'`).as('checked'),
      countWhere(sql`e.state = 'released'`).as('released'),
    ])
    .where('r.yearId', '=', yearId ?? null)
    .groupBy(['r.schoolId', 'r.id'])
    .orderBy('r.dueOn', 'desc')
    .execute()

/** How a round stands: every class's entries, its homerooms, and what was released. */
export const round = defineQuery({
  input: z.object({ roundId: id }),
  right: seeRound,
  topics: (_context, { roundId }) => [roundTopic(roundId), marksStatesTopic()],
  run: async (context, { roundId }) => {
    const { db, actor, today } = context
    const stored = await loadRound(context, roundId)
    const on = dayWithin(stored, today)
    const [classes, homerooms, cards, mayCheck, mayPrintAll, feeds] = await Promise.all([
      db
        .selectFrom('classEntries as e')
        .innerJoin('class as c', 'c.id', 'e.classId')
        .innerJoin('course as k', 'k.id', 'c.courseId')
        .innerJoin('subject as s', 's.id', 'k.subjectId')
        .leftJoin('classMember as m', (j) =>
          j.onRef('m.classId', '=', 'c.id').on(sql<boolean>`m.period @> ${on}::date`),
        )
        .leftJoin('reportEntry as x', (j) =>
          j
            .onRef('x.roundId', '=', 'e.roundId')
            .onRef('x.classId', '=', 'e.classId')
            .onRef('x.studentId', '=', 'm.studentId'),
        )
        .leftJoin('classMarks as cm', (j) =>
          j
            .onRef('cm.classId', '=', 'e.classId')
            .on('cm.termId', '=', stored.termId)
            .on('cm.periodId', 'is', null),
        )
        .select([
          'c.id',
          'c.name',
          's.name as subject',
          'e.state',
          'e.remark',
          'e.changedBy',
          'e.changedAt',
          classTeachers('c.id', on).as('teachers'),
          isTeacherOf(sql.ref('c.id'), actor.staffId, today).as('own'),
          sql<number>`count(m.student_id)::int`.as('students'),
          countWhere(sql`x.comment ~ '\\S'`).as('commented'),
          sql<number>`count(x.effort)::int`.as('efforts'),
          sql<MarksState>`coalesce(cm.state, 'open')`.as('marks'),
          sql<number>`coalesce(cm.version, 0)`.as('marksVersion'),
        ])
        .where('e.roundId', '=', roundId)
        .groupBy([
          'c.schoolId',
          'c.id',
          's.name',
          's.position',
          'e.state',
          'e.remark',
          'e.changedBy',
          'e.changedAt',
          'cm.state',
          'cm.version',
        ])
        .orderBy('s.position')
        .orderBy('c.name')
        .execute(),
      db
        .selectFrom('homeroom as h')
        .innerJoin('reportRoundYearGroup as rg', 'rg.yearGroupId', 'h.yearGroupId')
        .leftJoin('homeroomMember as m', (j) =>
          j.onRef('m.homeroomId', '=', 'h.id').on(sql<boolean>`m.period @> ${on}::date`),
        )
        .select(['h.id', 'h.name', sql<number>`count(m.student_id)::int`.as('students')])
        .where('rg.roundId', '=', roundId)
        .where('h.yearId', '=', stored.yearId)
        .where(whereMay(context, printCards, sql.ref('h.id')))
        .groupBy(['h.schoolId', 'h.id'])
        .orderBy('h.name')
        .execute(),
      db
        .selectFrom('reportCard')
        .select(({ fn }) => fn.countAll<string>().as('n'))
        .where('roundId', '=', roundId)
        .where('replacedAt', 'is', null)
        .executeTakeFirstOrThrow(),
      context.may(releaseCards, { roundId }),
      context.may(printCards, { roundId }),
      loadFeeds(context, roundId),
    ])
    return {
      ...stored,
      lines: feeds.lines,
      classes: classes.map((c) => {
        const { unfed, twice } = unsettled(feeds.of(c.id))
        return { ...c, unsettled: unfed.length + twice.length }
      }),
      homerooms,
      cardsReleased: Number(cards.n),
      mayCheck,
      mayPrintAll,
    }
  },
})

/** One class's entries: each student with mark and grade fed from the gradebook, effort and comment. */
export const classEntries = defineQuery({
  input: z.object({ roundId: id, classId: id }),
  right: readEntries,
  topics: (_context, { roundId, classId }) => [
    entriesTopic(roundId, classId),
    // Marks follow the gradebook until they are handed in.
    gradebookTopic(classId),
    classAssessmentsTopic(classId),
  ],
  run: async (context, { roundId, classId }) => {
    const { db, today } = context
    const stored = await loadRound(context, roundId)
    const on = dayWithin(stored, today)
    const [{ name, ...state }, students, entries, marks, feeds, siblings, mayWrite, mayCheck] =
      await Promise.all([
        db
          .selectFrom('classEntries as e')
          .innerJoin('class as c', 'c.id', 'e.classId')
          .select(['c.name', 'e.state', 'e.remark', 'e.changedBy', 'e.changedAt', 'e.version'])
          .where('e.roundId', '=', roundId)
          .where('e.classId', '=', classId)
          .executeTakeFirstOrThrow(),
        membersOf(context, classId, on),
        db
          .selectFrom('reportEntry')
          .selectAll()
          .where('roundId', '=', roundId)
          .where('classId', '=', classId)
          .execute(),
        marksOf(context, [classId], { termId: stored.termId, periodId: null }, 'always'),
        loadFeeds(context, roundId),
        gather(
          context,
          db
            .selectFrom('classEntries as e')
            .innerJoin('class as c', 'c.id', 'e.classId')
            .select(['c.id', 'c.name', 'e.state'])
            .where('e.roundId', '=', roundId)
            .orderBy('c.name'),
        ),
        context.may(writeEntries, { roundId, classId }),
        context.may(checkEntries, { roundId, classId }),
      ])
    const own = marks.get(classId)
    const entryOf = new Map(entries.map((e) => [e.studentId, e]))
    const unfed = unsettled(feeds.of(classId)).unfed
    return {
      round: {
        id: stored.id,
        name: stored.name,
        dueOn: stored.dueOn,
        commentLimit: stored.commentLimit,
        term: stored.term,
        /** The day whose gradebook the marks are read from; undefined for today. */
        readOn: on === today ? undefined : on,
      },
      class: { id: classId, name },
      ...state,
      mayWrite,
      mayCheck,
      /** How far the marks are that the entries show, and what fills no line yet. */
      marks: {
        state: own?.state ?? ('open' as const),
        unfed: feeds.lines.filter((l) => unfed.includes(l.id)).map((l) => l.name),
      },
      waiting: mayCheck
        ? siblings
            .filter((s) => s.state === 'handed in' && s.id !== classId)
            .map((s) => ({ id: s.id, name: s.name }))
        : [],
      rows: students.map((s) => {
        const entry = entryOf.get(s.id)
        return {
          studentId: s.id,
          name: s.name,
          since: s.since,
          values: valuesOf(feeds, own, s, true),
          effort: entry?.effort ?? null,
          comment: entry?.comment ?? '',
          version: entry?.version ?? 0,
          changedBy: entry?.changedBy ?? null,
        }
      }),
    }
  },
})

/** The contents of some students' cards as they stand now; not final until every line is checked. */
export const cardPreview = defineQuery({
  input: z.object({ roundId: id, homeroomId: id, studentId: id }),
  right: printCards,
  run: (context, { roundId, homeroomId, studentId }) =>
    loadCards(context, roundId, { homeroomId, studentIds: [studentId] }),
})

/** The homeroom's students, for choosing a card to look at. */
export const cardList = defineQuery({
  input: z.object({ roundId: id, homeroomId: id }),
  right: printCards,
  topics: (_context, { roundId }) => [roundTopic(roundId)],
  run: async (context, { roundId, homeroomId }) => {
    const { db, today } = context
    const stored = await loadRound(context, roundId)
    const on = dayWithin(stored, today)
    const students = await db
      .selectFrom('homeroomMember as m')
      .innerJoin('student as s', 's.id', 'm.studentId')
      .leftJoin('classMember as k', (j) =>
        j.onRef('k.studentId', '=', 's.id').on(sql<boolean>`k.period @> ${on}::date`),
      )
      .leftJoin('classEntries as e', (j) =>
        j.onRef('e.classId', '=', 'k.classId').on('e.roundId', '=', roundId),
      )
      .leftJoin('reportCard as c', (j) =>
        j.onRef('c.studentId', '=', 's.id').on('c.roundId', '=', roundId).on('c.replacedAt', 'is', null),
      )
      .select([
        's.id',
        's.sortName as name',
        sql<number>`count(e.class_id)::int`.as('lines'),
        countWhere(sql`e.state in ('checked', 'released')`).as('checked'),
        'c.issue',
        'c.releasedAt',
        'c.leftOut',
        'c.documentId',
      ])
      .where('m.homeroomId', '=', homeroomId)
      .where(sql<boolean>`m.period @> ${on}::date`)
      .groupBy(['s.schoolId', 's.id', 'c.issue', 'c.releasedAt', 'c.leftOut', 'c.documentId'])
      .orderBy('s.sortName')
      .orderBy('s.number')
      .execute()
    const homeroom = await db
      .selectFrom('homeroom')
      .select(['id', 'name'])
      .where('id', '=', homeroomId)
      .executeTakeFirstOrThrow()
    return {
      round: { id: stored.id, name: stored.name },
      homeroom,
      students,
    }
  },
})

/** A guardian's released cards of the own children: the newest issue of each, and those it replaced. */
export const myCards = defineQuery({
  input: z.object({}),
  right: seeOwnCards,
  run: (context) =>
    context.db
      .selectFrom('reportCard as c')
      .innerJoin('student as s', 's.id', 'c.studentId')
      .innerJoin('reportRound as r', 'r.id', 'c.roundId')
      .select([
        'c.id',
        'c.issue',
        'c.documentId',
        'c.releasedAt',
        'c.replacedAt',
        'c.leftOut',
        's.sortName',
        'r.name as round',
      ])
      .where(isGuardianOf.holds(context, sql.ref('c.studentId')))
      .orderBy('c.releasedAt', 'desc')
      .execute(),
})
