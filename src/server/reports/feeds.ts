import { sql } from 'kysely'
import { z } from 'zod'
import { id } from '@/core/inputs'
import { feedsInput } from '@/core/reports/feed-input'
import { fits, proposeFeeds } from '@/core/reports/feeds'
import { marksOf } from '@/server/marks'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { changedMeanwhile, type Standing } from '@/server/platform/failure'
import { whereMay } from '@/server/platform/rights'
import { loadRound } from './load-cards'
import { loadFeeds, sourcesOf } from './load-feeds'
import { feedAll, feedLines, seeFeeds, seeRound } from './rights'
import { entriesTopic, roundTopic } from './topics'
import { refuse, refuseField } from './messages'

/**
 * What fills the lines of a round in each class: the columns that can, what does, and a proposal for what nothing fills
 * yet. Teachers see their own classes, the head all of them.
 */
export const feeds = defineQuery({
  input: z.object({ roundId: id }),
  right: seeRound,
  topics: (_context, { roundId }) => [roundTopic(roundId)],
  run: async (context, { roundId }) => {
    const { db } = context
    const round = await loadRound(context, roundId)
    const classes = await db
      .selectFrom('classEntries as e')
      .innerJoin('class as c', 'c.id', 'e.classId')
      .innerJoin('course as k', 'k.id', 'c.courseId')
      .innerJoin('subject as s', 's.id', 'k.subjectId')
      .innerJoin('yearGroup as g', 'g.id', 'k.yearGroupId')
      .select([
        'c.id',
        'c.name',
        'c.courseId',
        sql<string>`g.name || ' ' || s.name`.as('course'),
        'e.state',
        whereMay(context, feedLines, sql.ref('c.id')).as('mayFeed'),
      ])
      .where('e.roundId', '=', roundId)
      .where(whereMay(context, seeFeeds, sql.ref('c.id')))
      .orderBy('g.position')
      .orderBy('s.position')
      .orderBy('c.name')
      .execute()
    const classIds = classes.map((c) => c.id)
    const [marks, fed] = await Promise.all([
      marksOf(context, classIds, { termId: round.termId, periodId: null }, 'where open'),
      loadFeeds(context, roundId),
    ])
    return {
      round: { id: round.id, name: round.name, term: round.term },
      lines: fed.lines,
      classes: classes.map((c) => {
        const sources = sourcesOf(marks.get(c.id))
        const lines = fed.of(c.id)
        const proposed = proposeFeeds(fed.lines, sources, lines)
        return {
          ...c,
          sources,
          lines: lines.map((line) => ({
            ...line,
            proposed: proposed.get(line.lineId)?.columnId,
          })),
        }
      }),
    }
  },
})

/** Says which column fills a line, for any number of lines and classes at once; all or none. */
export const saveFeeds = defineCommand({
  input: feedsInput,
  right: feedAll,
  undo: {
    days: 30,
    whenChangedSince: 'stop',
    topics: ({ roundId, feeds: all }: z.infer<typeof feedsInput>) => [
      roundTopic(roundId),
      ...new Set(all.map((f) => entriesTopic(roundId, f.classId))),
    ],
  },
  run: async (context, { roundId, feeds: asked }) => {
    const { db, actor } = context
    const round = await loadRound(context, roundId)
    const classIds = [...new Set(asked.map((f) => f.classId))].sort()
    // Held until the end, so that nobody hands in or checks meanwhile.
    const entries = await db
      .selectFrom('classEntries as e')
      .innerJoin('class as c', 'c.id', 'e.classId')
      .select(['e.classId', 'e.state', 'c.name'])
      .where('e.roundId', '=', roundId)
      .where('e.classId', 'in', classIds)
      .orderBy('e.classId')
      .forShare('e')
      .execute()
    if (entries.length < classIds.length) throw refuse('notInThisRound', {})
    const done = entries.find((e) => e.state === 'checked' || e.state === 'released')
    if (done) throw refuse('feedChecked', { className: done.name, state: done.state })
    const [marks, known] = await Promise.all([
      marksOf(context, classIds, { termId: round.termId, periodId: null }, 'where open'),
      loadFeeds(context, roundId),
    ])
    for (const [i, { classId, lineId, columnId }] of asked.entries()) {
      const line = known.lines.find((l) => l.id === lineId)
      const source = sourcesOf(marks.get(classId)).find((s) => s.columnId === columnId)
      if (!line) throw refuseField(`feeds.${i}.lineId`, 'lineGone', {})
      if (!source) throw refuseField(`feeds.${i}.columnId`, 'columnGone', {})
      if (!fits(line, source))
        throw refuseField(`feeds.${i}.columnId`, 'kindDiffers', { line: line.name, column: source.name })
    }
    const changed = asked.flatMap(({ classId, lineId, expectedVersion }): Standing[] => {
      const now = known.of(classId).find((l) => l.lineId === lineId)
      return now && now.version !== expectedVersion
        ? [{ key: { classId, lineId }, value: now.columnId ?? null, version: now.version, by: '' }]
        : []
    })
    if (changed.length > 0) throw changedMeanwhile('what fills these lines', changed)
    await sql`
      insert into feed as f (school_id, round_id, class_id, line_id, column_id)
      select ${actor.schoolId}, ${roundId}, r.class_id, r.line_id, r.column_id
      from jsonb_to_recordset(${JSON.stringify(asked.map((f) => ({ class_id: f.classId, line_id: f.lineId, column_id: f.columnId })))}::jsonb)
        as r(class_id uuid, line_id uuid, column_id uuid)
      on conflict (school_id, round_id, class_id, line_id) do update set column_id = excluded.column_id
        where f.column_id is distinct from excluded.column_id`.execute(db)
    context.changed(roundTopic(roundId), ...classIds.map((classId) => entriesTopic(roundId, classId)))
    return { lines: asked.length }
  },
})
