import { sql, type Kysely } from 'kysely'

/**
 * Makes a table a school's own: row-level security, forced also for the table's owner, with one policy
 * that compares `school_id` with the school set for the transaction; and rights for the application's role.
 *
 * @param history columns that identify a row; every insert, update and delete is then kept in `history`
 * @param may what the application's role may do; whatever is not named is refused by the database
 */
export async function protectSchoolTable(
  db: Kysely<unknown>,
  table: string,
  { history, may = 'select, insert, update, delete' }: { history?: readonly string[]; may?: string } = {},
): Promise<void> {
  const name = sql.table(table)
  await sql`alter table ${name} enable row level security`.execute(db)
  await sql`alter table ${name} force row level security`.execute(db)
  await sql`create policy own_school on ${name} using (school_id = kedge_school()) with check (school_id = kedge_school())`.execute(
    db,
  )
  await sql`grant ${sql.raw(may)} on ${name} to kedge_app`.execute(db)
  if (!history) return
  const { rows } = await sql<{ byStatement: boolean }>`
    select to_regprocedure('kedge_keep_history_of(regclass, text[])') is not null as "byStatement"`.execute(
    db,
  )
  if (rows[0]?.byStatement)
    await sql`select kedge_keep_history_of(${table}::regclass, ${[...history]}::text[])`.execute(db)
  // Until migration 037, which gives these tables the others.
  else
    await sql`create trigger keep_history after insert or update or delete on ${name}
      for each row execute function kedge_record_history(${sql.raw(history.map((c) => `'${c}'`).join(', '))})`.execute(
      db,
    )
}
