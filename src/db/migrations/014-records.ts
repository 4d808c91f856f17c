import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'
import { protectSchoolTable } from '@/db/school-table'

/**
 * Records that are edited field by field. Each field has a version of its own, drawn by the database: the version of
 * the row when the field was last changed, so that two people at two fields of one record do not meet.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  await run(`create function kedge_note_fields() returns trigger language plpgsql as $$
    begin
      new.field_versions := old.field_versions || coalesce((
        select jsonb_object_agg(key, new.version) from jsonb_each(to_jsonb(new))
        where key not in ('version', 'field_versions', 'roll_version', 'changed_by', 'changed_at') and to_jsonb(old) -> key is distinct from value), '{}');
      return new;
    end $$`)
  // What only serves to compare is not part of a history.
  await run(`do $$ begin execute replace(pg_get_functiondef('kedge_record_history()'::regprocedure),
    '''school_id'']', '''school_id'', ''field_versions'', ''roll_version'']'); end $$`)

  await run(`alter table student add column pronouns text check (length(pronouns) <= ${limits.shortName}),
    add column medical_note text check (length(medical_note) <= ${limits.remark}),
    -- Drawn anew whenever the student's memberships change.
    add column roll_version integer not null default 0`)
  await run(`alter table student add constraint student_support_note_length check (length(support_note) <= ${limits.remark}),
    add constraint student_sort_name_length check (length(sort_name) <= ${2 * limits.personName + 2})`)
  for (const table of ['guardian', 'guardianship', 'staff_member'])
    await run(`alter table ${table} add column version integer not null default 1`)
  for (const table of ['guardian', 'guardianship', 'staff_member'])
    await run(`create trigger next_version before insert or update on ${table}
      for each row execute function kedge_next_version()`)
  // Runs after next_version, in the order of their names.
  for (const table of ['student', 'guardian', 'staff_member']) {
    await run(`alter table ${table} add column field_versions jsonb not null default '{}'`)
    await run(`create trigger note_fields before update on ${table}
      for each row execute function kedge_note_fields()`)
  }
  await run(`alter table guardian add constraint guardian_address_length check (length(address) <= ${limits.line}),
    add constraint guardian_language_length check (length(language) <= 12)`)

  // Why and where to a student left; the enrolments say when.
  await run(`create table departure (
    school_id uuid not null, student_id uuid not null, last_day date not null,
    reason text not null check (length(reason) between 1 and ${limits.line}), destination text check (length(destination) <= ${limits.line}),
    primary key (school_id, student_id, last_day), foreign key (school_id, student_id) references student
  )`)
  await protectSchoolTable(db, 'departure', { history: ['student_id', 'last_day'] })
}
