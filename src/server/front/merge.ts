/* eslint-disable no-await-in-loop -- one statement for each table */
import { sql } from 'kysely'
import { z } from 'zod'
import { id } from '@/core/inputs'
import { studentFields, type StudentField } from '@/core/people/inputs'
import { spokenName } from '@/core/people/names'
import { gradebookTopic } from '@/server/marks'
import { mergeMemberships, mergeStudents as mergeRight, studentTopic } from '@/server/people'
import { catalog } from '@/server/platform/catalog'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { notFound, Refusal, refusals } from '@/server/platform/failure'
import { arrivalsTopic, registersTopic, rollTopic } from '@/server/school/topics'

const { refuse } = refusals('record', {
  sameRecord: () => 'Choose two different records.',
  mergedBefore: ({ name }: { name: string }) =>
    `The record of ${name} has been merged already. Reload the page.`,
  keepEnrolled: ({ name }: { name: string }) =>
    `${name} was never enrolled under this record. Keep the other one, which has a number.`,
})

const mergeInput = z.object({
  /** The record that stays. */
  keepId: id,
  /** The record whose contents move to it. */
  dropId: id,
})

/** Memberships are put together by their dates; mails stay with the record they were sent for. */
const elsewhere = new Set(['enrolment', 'homeroom_member', 'class_member', 'analysis_group_member', 'mail'])

/** A column of a table, and the one of another that holds the same. */
type Pair = readonly [own: string, other: string]

interface StudentTable {
  readonly table: string
  /** Columns of each unique key that names the student, without school and student. */
  readonly keys: readonly (readonly string[])[]
  readonly inPrimaryKey: boolean
  /** A row of another student table to which rows belong, such as the sheet of an answer. */
  readonly under: { readonly table: string; readonly columns: readonly Pair[] } | undefined
}

/** All tables with rows of students, parents first, as the database knows them: one that is added later moves, too. */
async function studentTables({ db }: Context): Promise<readonly StudentTable[]> {
  const known = await catalog(db)
  const { rows } = await sql<{ table: string; primary: boolean; columns: string[] }>`
    select i.indrelid::regclass::text as table, i.indisprimary as primary,
      array_agg(a.attname::text order by x.n) as columns
    from pg_index i cross join unnest(i.indkey::int2[]) with ordinality x(att, n)
    join pg_attribute a on a.attrelid = i.indrelid and a.attnum = x.att
    join pg_class c on c.oid = i.indrelid and c.relnamespace = 'public'::regnamespace
    where i.indisunique group by i.indexrelid, i.indrelid, i.indisprimary`.execute(db)
  const others = (columns: readonly string[]) =>
    columns.filter((column) => column !== 'school_id' && column !== 'student_id')
  return known.parentsFirst
    .filter((table) => known.columns.get(table)?.includes('student_id') && !elsewhere.has(table))
    .filter((table) => table !== 'history')
    .map((table) => {
      const unique = rows.filter((row) => row.table === table && row.columns.includes('student_id'))
      const parent = known.foreignKeys.find(
        (key) => key.child === table && key.parent !== 'student' && key.childColumns.includes('student_id'),
      )
      return {
        table,
        keys: unique.map((row) => others(row.columns)),
        inPrimaryKey: unique.some((row) => row.primary),
        under: parent && {
          table: parent.parent,
          columns: parent.childColumns
            .map((own, i): Pair => [own, parent.parentColumns[i] ?? own])
            .filter(([own]) => others([own]).length > 0),
        },
      }
    })
}

/**
 * Moves the rows of one student to another, where the other has none with the same key. Rows whose key names the
 * student are made anew and then deleted, so that a history and an undo find both.
 * @returns how many rows stay, because both have one
 */
async function moveRows(context: Context, keepId: string, dropId: string): Promise<number> {
  const { db } = context
  const known = await catalog(db)
  const tables = await studentTables(context)
  const movable = new Map<string, unknown[]>()
  let stayed = 0
  for (const { table, keys, under } of tables) {
    const taken = keys.map((columns) =>
      same(
        columns.map((c): Pair => [c, c]),
        table,
      ),
    )
    if (under) taken.push(same(under.columns, under.table))
    const { rows } = await sql<{ row: unknown; free: boolean }>`
      select to_jsonb(t) as row, not (${sql.join([sql`false`, ...taken.map((one) => sql`exists (${one(keepId)})`)], sql` or `)}) as free
      from ${sql.table(table)} t where t.student_id = ${dropId}`.execute(db.withoutPlugins())
    movable.set(
      table,
      rows.filter((r) => r.free).map((r) => r.row),
    )
    stayed += rows.filter((r) => !r.free).length
  }
  for (const { table, inPrimaryKey } of tables) {
    const rows = movable.get(table) ?? []
    if (rows.length === 0) continue
    const columns = known.columns.get(table) ?? []
    const asked = sql`jsonb_populate_recordset(null::${sql.table(table)}, ${JSON.stringify(rows)}::jsonb) r`
    if (inPrimaryKey)
      await sql`insert into ${sql.table(table)} (${sql.join(columns.map((c) => sql.ref(c)))})
        select ${sql.join(columns.map((c) => (c === 'student_id' ? sql`${keepId}::uuid` : sql`r.${sql.ref(c)}`)))} from ${asked}`.execute(
        db,
      )
    else
      await sql`update ${sql.table(table)} t set student_id = ${keepId} from ${asked}
        where t.id = r.id and t.student_id = ${dropId}`.execute(db)
  }
  for (const { table, keys, inPrimaryKey } of [...tables].reverse()) {
    const rows = movable.get(table) ?? []
    if (!inPrimaryKey || rows.length === 0) continue
    const on = (keys[0] ?? []).map((c) => sql`t.${sql.ref(c)} = r.${sql.ref(c)}`)
    await sql`delete from ${sql.table(table)} t
      using jsonb_populate_recordset(null::${sql.table(table)}, ${JSON.stringify(rows)}::jsonb) r
      where ${sql.join([sql`t.student_id = ${dropId}`, ...on], sql` and `)}`.execute(db)
  }
  return stayed
}

/** A row of a table for another student with the same values in some columns. */
const same = (columns: readonly Pair[], table: string) => (keepId: string) =>
  sql`select 1 from ${sql.table(table)} o where ${sql.join(
    [
      sql`o.student_id = ${keepId}`,
      ...columns.map(([own, other]) => sql`o.${sql.ref(other)} = t.${sql.ref(own)}`),
    ],
    sql` and `,
  )}`

/** Fills what is empty in the record that stays from the other one. */
async function fillFields({ db }: Context, keepId: string, dropId: string): Promise<void> {
  const names = [...(Object.keys(studentFields) as StudentField[]), 'photoId' as const]
  const rows = await db.selectFrom('student').selectAll().where('id', 'in', [keepId, dropId]).execute()
  const [keep, drop] = [keepId, dropId].map((one) => rows.find((row) => row.id === one))
  if (!keep || !drop) throw new Refusal(notFound)
  const filled = names.filter((name) => !keep[name] && drop[name])
  if (filled.length === 0) return
  await db
    .updateTable('student')
    .set(Object.fromEntries(filled.map((name) => [name, drop[name]])))
    .where('id', '=', keepId)
    .execute()
}

/** Of two plans for the same days, that of the record that stays counts. */
async function dropOverlappingPlans({ db }: Context, keepId: string, dropId: string): Promise<void> {
  await sql`delete from planned_absence d using planned_absence k
    where d.student_id = ${dropId} and k.student_id = ${keepId} and d.part && k.part
      and daterange(d.first_day, d.last_day, '[]') && daterange(k.first_day, k.last_day, '[]')`.execute(db)
}

type Asked = z.infer<typeof mergeInput>
const topics = ({ keepId, dropId }: Asked) => [
  rollTopic(),
  registersTopic(),
  arrivalsTopic(),
  studentTopic(keepId),
  studentTopic(dropId),
]

const drawVersions = async ({ db }: Context, { keepId, dropId }: Asked) => {
  await sql`update student set roll_version = nextval('kedge_version') where id in (${keepId}, ${dropId})`.execute(
    db,
  )
}

/**
 * Puts two records of the same student together. Everything moves to the record that stays: memberships by their
 * dates, guardians, marks, answers, scores, reports. What both have stays with the other record, which refers to this
 * one from then on and is on no list any more. Its number is not given again.
 */
export const merge = defineCommand({
  input: mergeInput,
  right: mergeRight,
  needsNoVersion: 'does what its preview has shown',
  undo: { days: 30, whenChangedSince: 'stop', topics, after: drawVersions },
  run: async (context, asked) => {
    const { db } = context
    const { keepId, dropId } = asked
    if (keepId === dropId) throw refuse('sameRecord', {})
    const rows = await db
      .selectFrom('student')
      .select(['id', 'sortName', 'number', 'mergedInto'])
      .where('id', 'in', [keepId, dropId])
      .orderBy('id')
      .forUpdate()
      .execute()
    const [keep, drop] = [keepId, dropId].map((one) => rows.find((row) => row.id === one))
    if (!keep || !drop) throw new Refusal(notFound)
    for (const row of [keep, drop])
      if (row.mergedInto) throw refuse('mergedBefore', { name: spokenName(row.sortName) })
    if (keep.number === null && drop.number !== null)
      throw refuse('keepEnrolled', { name: spokenName(keep.sortName) })
    const classes = await db
      .selectFrom('classMember')
      .select('classId')
      .distinct()
      .where('studentId', '=', dropId)
      .execute()
    await fillFields(context, keepId, dropId)
    await dropOverlappingPlans(context, keepId, dropId)
    await mergeMemberships(context, keepId, dropId)
    const stayed = await moveRows(context, keepId, dropId)
    await db
      .updateTable('student')
      .set({ mergedInto: keepId, expectedIn: null, expectedFrom: null })
      .where('id', '=', dropId)
      .execute()
    await drawVersions(context, asked)
    context.changed(...topics(asked), ...classes.map((c) => gradebookTopic(c.classId)))
    return { stayed }
  },
})
