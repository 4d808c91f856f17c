import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { carriedColumns } from '@/core/marks/columns/carried'
import { isCalculated, type Column, type Operand } from '@/core/marks/columns/column'
import { sameName } from '@/core/same-name'
import type { Context } from '@/server/platform/context'
import { loadColumns, rowOf, type StoredColumn } from './columns'
import { termsOfAll, type TermOfClass } from './elsewhere'

/** A gradebook with the one that gets its columns. */
export interface Copied {
  readonly from: string
  readonly to: string
}

interface NewColumn {
  readonly classId: string
  readonly position: number
  readonly column: Column
}

/** The parts of columns, as rows. */
const partRows = (columns: readonly NewColumn[]) =>
  columns.flatMap(({ column }) =>
    isCalculated(column)
      ? column.parts.map(({ operand, weight }, i) => ({
          columnId: column.id,
          position: i + 1,
          weight,
          ...operand,
        }))
      : [],
  )

const levelRows = (columns: readonly NewColumn[]) =>
  columns.flatMap(({ column }) =>
    (isCalculated(column)
      ? column.levels.map(({ name, from }) => ({ name, from: from as string | null }))
      : column.choices.map(({ name, value }) => ({ name, from: value }))
    ).map((level, i) => ({ columnId: column.id, position: i + 1, ...level })),
  )

async function write({ db, actor: { schoolId } }: Context, columns: readonly NewColumn[]): Promise<void> {
  if (columns.length === 0) return
  const rows = columns.map(({ classId, position, column }) => ({
    id: column.id,
    classId,
    position,
    ...rowOf(column),
  }))
  await sql`insert into mark_column (school_id, id, class_id, term_id, name, does, take, decimals, position)
    select ${schoolId}, c.id, c."classId", c."termId", c.name, c.does, c.take, c.decimals, c.position
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as c(id uuid, "classId" uuid, "termId" uuid, name text, does text, take int, decimals int, position int)`.execute(
    db,
  )
  await sql`insert into mark_column_part (school_id, column_id, position, weight, category_id, part_column_id, marks_term_id, period_id)
    select ${schoolId}, p."columnId", p.position, p.weight, case p."of" when 'category' then p.id end,
      case p."of" when 'column' then p.id end, p."termId", p."periodId"
    from jsonb_to_recordset(${JSON.stringify(partRows(columns))}::jsonb)
      as p("columnId" uuid, position int, weight numeric, "of" text, id uuid, "termId" uuid, "periodId" uuid)`.execute(
    db,
  )
  await sql`insert into mark_column_level (school_id, column_id, position, name, from_value)
    select ${schoolId}, l."columnId", l.position, l.name, l."from"
    from jsonb_to_recordset(${JSON.stringify(levelRows(columns))}::jsonb) as l("columnId" uuid, position int, name text, "from" numeric)`.execute(
    db,
  )
}

/** The term of the one class that stands for a term of the other: the next one within a class, else the one at the same place of the year. */
function termFor(
  { from, to }: Copied,
  between: { readonly from: string; readonly to: string },
  terms: ReadonlyMap<string, readonly TermOfClass[]>,
  termId: string,
  column: Column,
): TermOfClass | undefined {
  const here = terms.get(from) ?? []
  const there = terms.get(to) ?? []
  if (termId === between.from && column.termId !== null) return there.find((t) => t.id === between.to)
  return (
    there.find((t) => t.id === termId) ??
    (sharesYear(here, there) ? undefined : there[here.findIndex((t) => t.id === termId)])
  )
}

const sharesYear = (here: readonly TermOfClass[], there: readonly TermOfClass[]) =>
  here.some((t) => there.some((o) => o.id === t.id))

/**
 * Gives gradebooks the columns that others have beside their assignments, in a number of statements that does not grow
 * with the classes; what is entered in them does not travel. Between classes the columns of the whole year come along.
 * @returns names of columns that stay behind, since they read something that the other class lacks
 */
export async function copyColumns(
  context: Context,
  pairs: readonly Copied[],
  between: { readonly from: string; readonly to: string },
): Promise<readonly string[]> {
  const { db } = context
  if (pairs.length === 0) return []
  const classIds = [...new Set(pairs.flatMap((p) => [p.from, p.to]))].sort()
  // No two columns of a class are written at once, or each could feed the other.
  await db
    .selectFrom('class')
    .select('id')
    .where('id', 'in', classIds)
    .orderBy('id')
    .forNoKeyUpdate()
    .execute()
  const [all, terms, categories] = await Promise.all([
    loadColumns(db, classIds),
    termsOfAll(context, classIds),
    db
      .selectFrom('category')
      .select(['id', 'classId', 'termId', 'name'])
      .where('classId', 'in', classIds)
      .where('termId', 'in', [between.from, between.to])
      .execute(),
  ])
  const columnsOf = (classId: string): readonly StoredColumn[] => all.filter((c) => c.classId === classId)
  const results = pairs.map((pair) => {
    const { from, to } = pair
    const own = columnsOf(to)
    const termOf = (termId: string, column: Column) => termFor(pair, between, terms, termId, column)
    const operandOf = (
      operand: Exclude<Operand, { of: 'column' }>,
      column: Column,
    ): Exclude<Operand, { of: 'column' }> | undefined => {
      if (operand.of === 'assignment') return undefined
      if (operand.of === 'category') {
        const name = categories.find((c) => c.id === operand.id)?.name
        const there = categories.find(
          (c) =>
            c.classId === to &&
            c.termId === between.to &&
            name !== undefined &&
            sameName(c.name) === sameName(name),
        )
        return there && { of: 'category', id: there.id }
      }
      const term = termOf(operand.termId, column)
      if (!term || operand.periodId === null) return term && { ...operand, termId: term.id }
      const at = terms
        .get(from)
        ?.find((t) => t.id === operand.termId)
        ?.periods.findIndex((p) => p.id === operand.periodId)
      const period = term.periods[at ?? -1]
      return period && { of: 'marks', termId: term.id, periodId: period.id }
    }
    const wanted = columnsOf(from).filter(
      (c) => c.termId === between.from || (c.termId === null && from !== to),
    )
    // Columns of the year that a column of the term reads are there already.
    const read = from === to ? columnsOf(from).filter((c) => c.termId === null) : []
    let position = own.length
    return carriedColumns<NewColumn>(
      [...read, ...wanted],
      {
        own,
        termOf: (termId, column) => termOf(termId, column)?.id,
        operandOf,
        create: (column) => ({ classId: to, position: ++position, column }),
      },
      uuid,
    )
  })
  await write(
    context,
    results.flatMap((r) => r.columns),
  )
  return [...new Set(results.flatMap((r) => r.left))]
}
