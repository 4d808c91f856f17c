import { sql, type Transaction } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { expectedVersion, id } from '@/core/inputs'
import { circleIn, isCalculated, type Column, type Operand } from '@/core/marks/columns/column'
import {
  columnInput,
  isCalculatedInput,
  type CalculatedInput,
  type ColumnInput,
} from '@/core/marks/columns/inputs'
import { matchByName } from '@/core/marks/settings'
import type { Tables } from '@/db/tables'
import type { Context } from '@/server/platform/context'
import { isForeignKeyViolation } from '@/server/platform/database-errors'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { gradebookTopic, plainDecimal } from './load-gradebooks'
import { enterScores, enterScoresHereAndIn } from './rights'
import { refuse, refuseField } from './messages'

export type StoredColumn = Column & {
  readonly classId: string
  readonly version: number
}

interface PartRow {
  readonly weight: string
  readonly assignment: string | null
  readonly category: string | null
  readonly term: string | null
  readonly period: string | null
  readonly column: string | null
}

interface ColumnRow {
  readonly id: string
  readonly classId: string
  readonly name: string
  readonly termId: string | null
  readonly does: Column['does']
  readonly take: number | null
  readonly decimals: number
  readonly version: number
  readonly parts: readonly PartRow[]
  readonly levels: readonly { readonly name: string; readonly from: string | null }[]
}

const operandOf = ({ assignment, category, term, period, column }: PartRow): Operand =>
  assignment !== null
    ? { of: 'assignment', id: assignment }
    : category !== null
      ? { of: 'category', id: category }
      : column !== null
        ? { of: 'column', id: column }
        : { of: 'marks', termId: term ?? '', periodId: period }

function columnOf({ parts, levels, does, take, decimals, ...row }: ColumnRow): StoredColumn {
  if (does === 'choice' || does === 'number')
    return {
      ...row,
      does,
      choices: levels.map(({ name, from }) => ({ name, value: from === null ? null : plainDecimal(from) })),
    }
  return {
    ...row,
    does,
    take,
    decimals,
    parts: parts.map((part) => ({ operand: operandOf(part), weight: plainDecimal(part.weight) })),
    levels: levels.map(({ name, from }) => ({ name, from: plainDecimal(from ?? '0') })),
  }
}

/**
 * The columns of classes beside their assignments, those of one term with those of the whole year, in order.
 * @param termId without one, those of all terms
 */
export async function loadColumns(
  db: Transaction<Tables>,
  classIds: readonly string[],
  termId?: string,
): Promise<readonly StoredColumn[]> {
  const { rows } = await sql<ColumnRow>`
    select c.id, c.class_id, c.name, c.term_id, c.does, c.take, c.decimals, c.version,
      (select coalesce(json_agg(json_build_object('weight', p.weight::text, 'assignment', p.assignment_id, 'category', p.category_id,
        'term', p.marks_term_id, 'period', p.period_id, 'column', p.part_column_id) order by p.position), '[]')
        from mark_column_part p where p.school_id = c.school_id and p.column_id = c.id) as parts,
      (select coalesce(json_agg(json_build_object('name', l.name, 'from', l.from_value::text) order by l.position), '[]')
        from mark_column_level l where l.school_id = c.school_id and l.column_id = c.id) as levels
    from mark_column c where c.class_id = any(${[...classIds]}::uuid[])
      and (${termId ?? null}::uuid is null or c.term_id is null or c.term_id = ${termId ?? null})
    order by c.position, c.id`.execute(db)
  return rows.map(columnOf)
}

/** Refuses parts that are not there, or not in sight of the column. */
async function checkParts({ db }: Context, { classId, termId, parts }: CalculatedInput): Promise<void> {
  const { rows } = await sql<{ at: number }>`
    select p.at::int as at from jsonb_to_recordset(${JSON.stringify(
      parts.map(({ operand }, at) => ({ at, ...operand })),
    )}::jsonb) as p(at int, "of" text, id uuid, "termId" uuid, "periodId" uuid)
    where not case p."of"
      when 'assignment' then exists (select 1 from assignment a where a.id = p.id and a.class_id = ${classId} and a.term_id = ${termId})
      when 'category' then exists (select 1 from category k where k.id = p.id and k.class_id = ${classId} and k.term_id = ${termId})
      when 'column' then exists (select 1 from mark_column c where c.id = p.id and c.class_id = ${classId}
        and (c.term_id is null or c.term_id = ${termId}))
      else exists (select 1 from class_term t where t.class_id = ${classId} and t.term_id = p."termId")
        and (p."periodId" is null or exists (select 1 from term_period r where r.id = p."periodId" and r.term_id = p."termId")) end
    order by p.at limit 1`.execute(db)
  const [first] = rows
  if (first) throw refuseField(`parts.${first.at}`, 'partGone', {})
}

/** Writes the parts and levels, or the choices, of a column anew. */
async function writeParts(
  { db, actor: { schoolId } }: Context,
  columnId: string,
  asked: ColumnInput,
): Promise<void> {
  await db.deleteFrom('markColumnPart').where('columnId', '=', columnId).execute()
  await db.deleteFrom('markColumnLevel').where('columnId', '=', columnId).execute()
  if (isCalculatedInput(asked))
    await db
      .insertInto('markColumnPart')
      .values(
        asked.parts.map(({ operand, weight }, i) => ({
          schoolId,
          columnId,
          position: i + 1,
          weight,
          assignmentId: operand.of === 'assignment' ? operand.id : null,
          categoryId: operand.of === 'category' ? operand.id : null,
          partColumnId: operand.of === 'column' ? operand.id : null,
          marksTermId: operand.of === 'marks' ? operand.termId : null,
          periodId: operand.of === 'marks' ? operand.periodId : null,
        })),
      )
      .execute()
  const levels = isCalculatedInput(asked)
    ? asked.levels
    : asked.choices.map(({ name, value }) => ({ name, from: value }))
  if (levels.length > 0)
    await db
      .insertInto('markColumnLevel')
      .values(
        levels.map(({ name, from }, i) => ({ schoolId, columnId, position: i + 1, name, fromValue: from })),
      )
      .execute()
}

/** What is entered in a column follows choices that are renamed; one that is in use cannot be taken out. */
async function moveEntries({ db }: Context, known: Column, asked: ColumnInput): Promise<void> {
  if (isCalculated(known) || isCalculatedInput(asked)) return
  const { gone, lines } = matchByName(known.choices, asked.choices)
  const used = await db
    .selectFrom('columnEntry')
    .select((eb) => ['value', eb.fn.countAll<number>().as('n')])
    .where('columnId', '=', known.id)
    .where('value', 'is not', null)
    .groupBy('value')
    .execute()
  const inUse = used.find((u) => gone.some((c) => c.name === u.value))
  if (inUse)
    throw refuseField('choices', 'choiceInUse', { name: inUse.value ?? '', students: Number(inUse.n) })
  const renamed = lines.flatMap(({ line, own }) =>
    own && own.name !== line.name ? [{ was: own.name, name: line.name }] : [],
  )
  if (renamed.length > 0)
    await sql`update column_entry e set value = r.name
      from jsonb_to_recordset(${JSON.stringify(renamed)}::jsonb) as r(was text, name text)
      where e.column_id = ${known.id} and e.value = r.was`.execute(db)
}

/** The class, held until the end: no two columns of it are written at once, or each could feed the other. */
const holdClass = ({ db }: Context, classId: string) =>
  db.selectFrom('class').select('id').where('id', '=', classId).forNoKeyUpdate().execute()

/**
 * A new column as another class gets it: the same marks of terms, and the categories of the same names. What only the
 * first class has is refused.
 */
async function forOther({ db }: Context, asked: ColumnInput, classId: string): Promise<ColumnInput> {
  if (!isCalculatedInput(asked)) return { ...asked, classId }
  const ids = asked.parts.flatMap(({ operand }) => (operand.of === 'category' ? [operand.id] : []))
  const { rows } = await sql<{ id: string; name: string; className: string; there: string | null }>`
    select own.id, own.name, c.name as class_name, (select k.id from category k where k.school_id = c.school_id and k.class_id = c.id
      and k.term_id = own.term_id and lower(btrim(k.name)) = lower(btrim(own.name)) order by k.position limit 1) as there
    from category own cross join class c where own.id = any(${ids}::uuid[]) and c.id = ${classId}`.execute(db)
  const parts = asked.parts.map((part) => {
    const { operand } = part
    if (operand.of === 'marks') return part
    if (operand.of !== 'category') throw refuseField('others', 'columnOwn', {})
    const found = rows.find((row) => row.id === operand.id)
    if (!found?.there)
      throw refuseField('others', 'categoryMissing', {
        className: found?.className ?? '',
        name: found?.name ?? '',
      })
    return { ...part, operand: { of: 'category' as const, id: found.there } }
  })
  return { ...asked, classId, parts }
}

/** Adds a column to a class, after those that are there. */
async function addColumn(context: Context, asked: ColumnInput, id: string, count: number): Promise<void> {
  const { db, actor } = context
  await db
    .insertInto('markColumn')
    .values({ schoolId: actor.schoolId, id, classId: asked.classId, position: count + 1, ...rowOf(asked) })
    .execute()
  await writeParts(context, id, asked)
}

/** What stands in the row of a column itself. */
export const rowOf = (column: {
  readonly name: string
  readonly termId: string | null
  readonly does: Column['does']
  readonly take?: number | null
  readonly decimals?: number
}) => ({
  name: column.name,
  termId: column.termId,
  does: column.does,
  take: column.take ?? null,
  decimals: column.decimals ?? 2,
})

/** Adds the same new column to other classes, all or none; in an order in which two people never wait for each other. */
async function addToOthers(context: Context, asked: ColumnInput): Promise<number> {
  const others = [...new Set(asked.others)].filter((other) => other !== asked.classId).sort()
  for (const classId of others) {
    /* eslint-disable no-await-in-loop -- each class is held while its columns are looked at; an act has few */
    await holdClass(context, classId)
    const own = await forOther(context, asked, classId)
    await checkTerm(context, own)
    if (isCalculatedInput(own)) await checkParts(context, own)
    const { length } = await loadColumns(context.db, [classId])
    await addColumn(context, own, uuid(), length)
    context.changed(gradebookTopic(classId))
    /* eslint-enable no-await-in-loop */
  }
  return others.length
}

/** A column of a term needs the gradebook of that term. */
async function checkTerm({ db }: Context, { classId, termId }: ColumnInput): Promise<void> {
  if (termId === null) return
  const book = await db
    .selectFrom('gradebook')
    .select('classId')
    .where('classId', '=', classId)
    .where('termId', '=', termId)
    .executeTakeFirst()
  if (!book) throw refuseField('termId', 'termOfOther', {})
}

const undo = {
  days: 30,
  whenChangedSince: 'stop',
  topics: ({ classId, others = [] }: { classId: string; others?: readonly string[] }) =>
    [classId, ...others].map(gradebookTopic),
} as const

/** Creates a column of a class beside its assignments, of others at once too, or changes one. Columns that would feed each other in a circle are refused. */
export const saveColumn = defineCommand({
  input: columnInput,
  right: enterScoresHereAndIn,
  undo,
  run: async (context, asked) => {
    const { db } = context
    const { classId, termId, name, does } = asked
    await holdClass(context, classId)
    const all = await loadColumns(db, [classId])
    const known = all.find((c) => c.id === asked.columnId)
    if (asked.columnId !== null && !known) throw refuse('columnGone', {})
    await checkTerm(context, asked)
    if (known && isCalculated(known) !== isCalculatedInput(asked)) throw refuseField('does', 'columnKind', {})
    if (known && !isCalculated(known) && known.does !== does) throw refuseField('does', 'columnKind', {})
    const id = known?.id ?? uuid()
    const parts = isCalculatedInput(asked) ? asked.parts : []
    if (isCalculatedInput(asked)) await checkParts(context, asked)
    const circle = circleIn([{ id, parts }, ...all.filter(isCalculated).filter((c) => c.id !== id)])
    if (circle) {
      const names = circle.map((one) => (one === id ? name : (all.find((c) => c.id === one)?.name ?? '')))
      throw refuseField('parts', 'columnCircle', { names })
    }
    if (known) {
      // Others of a term cannot read it where it is not shown.
      const reader = all
        .filter(isCalculated)
        .find(
          (c) =>
            c.termId !== termId &&
            termId !== null &&
            c.parts.some((p) => p.operand.of === 'column' && p.operand.id === id),
        )
      if (reader) throw refuseField('termId', 'columnIsRead', { name, reader: reader.name })
      await updateIfUnchanged(context, 'markColumn', { id }, asked.expectedVersion, rowOf(asked), {
        what: known.name,
      })
      await moveEntries(context, known, asked)
      await writeParts(context, id, asked)
    } else await addColumn(context, asked, id, all.length)
    const others = known ? 0 : await addToOthers(context, asked)
    context.changed(gradebookTopic(classId))
    return { columnId: id, classes: others + 1 }
  },
})

/** Deletes a column that no other one reads, with what is entered in it. */
export const removeColumn = defineCommand({
  input: z.object({ classId: id, columnId: id, expectedVersion }),
  right: enterScores,
  undo,
  run: async (context, { classId, columnId, expectedVersion: version }) => {
    const { db } = context
    await holdClass(context, classId)
    const all = await loadColumns(db, [classId])
    const own = all.find((c) => c.id === columnId)
    if (!own) throw refuse('columnGone', {})
    const reader = all
      .filter(isCalculated)
      .find((c) => c.parts.some((p) => p.operand.of === 'column' && p.operand.id === columnId))
    if (reader) throw refuse('columnIsRead', { name: own.name, reader: reader.name })
    await updateIfUnchanged(context, 'markColumn', { id: columnId }, version, {}, { what: own.name })
    const held = await db
      .selectFrom('heldMark')
      .select('marksId')
      .where('columnId', '=', columnId)
      .limit(1)
      .executeTakeFirst()
    if (held) throw refuse('columnHeld', { name: own.name })
    for (const table of ['markColumnPart', 'markColumnLevel', 'columnEntry'] as const)
      await db.deleteFrom(table).where('columnId', '=', columnId).execute() // eslint-disable-line no-await-in-loop -- three
    try {
      await db.deleteFrom('markColumn').where('id', '=', columnId).execute()
    } catch (error) {
      // Beside other columns and held marks only a report can rest on it.
      if (isForeignKeyViolation(error)) throw refuse('columnFeeds', { name: own.name })
      throw error
    }
    context.changed(gradebookTopic(classId))
    return null
  },
})

/** Refuses to delete what a calculated column reads. */
export async function checkNotRead(
  { db }: Context,
  what: 'assignmentId' | 'categoryId',
  ids: readonly string[],
): Promise<void> {
  if (ids.length === 0) return
  const reader = await db
    .selectFrom('markColumnPart as p')
    .innerJoin('markColumn as c', 'c.id', 'p.columnId')
    .leftJoin('assignment as a', 'a.id', 'p.assignmentId')
    .leftJoin('category as k', 'k.id', 'p.categoryId')
    .select((eb) => ['c.name as reader', eb.fn.coalesce('a.name', 'k.name').as('name')])
    .where(`p.${what}`, 'in', [...ids])
    .executeTakeFirst()
  if (reader) throw refuse('columnIsRead', { name: reader.name ?? '', reader: reader.reader })
}
