import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { codeSetInput } from '@/core/attendance/inputs'
import type { Meaning } from '@/core/attendance/codes'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { makeRoomAmong } from '@/server/school/one-at-a-time'
import { codesTopic, registersTopic } from '@/server/school/topics'
import { plansWithoutCode } from './invariants'
import { editCodes, seeRegisters } from './rights'
import { refuse, refuseField } from './messages'

const topics = () => [codesTopic(), registersTopic()]
const undo = { days: 30, whenChangedSince: 'stop', topics } as const

interface CodeRow {
  readonly id: string
  readonly code: string
  readonly label: string
  readonly familyLabel: string | null
  readonly meaning: Meaning
  readonly needsMinutes: boolean
  readonly needsNote: boolean
  readonly officeOnly: boolean
  /** How many marks use it. */
  readonly marks: number
}

/** The sets of attendance codes, the newest first, each with its codes and how many marks use them. */
export const codeSets = defineQuery({
  input: z.object({}),
  right: seeRegisters,
  // Not at every mark: counting them all is work for when the page is opened.
  topics: () => [codesTopic()],
  run: async (context) => {
    const [{ rows }, mayChange] = await Promise.all([
      sql<{
        id: string
        name: string
        firstDay: string
        lastDay: string | null
        version: number
        codes: readonly CodeRow[]
      }>`
        with used as (select code_id, count(*)::int as n from attendance_mark where code_id is not null group by code_id)
        select s.id, s.name, s.first_day::text, s.last_day::text, s.version,
          (select coalesce(jsonb_agg(jsonb_build_object('id', c.id, 'code', c.code, 'label', c.label,
            'familyLabel', c.family_label, 'meaning', c.meaning, 'needsMinutes', c.needs_minutes,
            'needsNote', c.needs_note, 'officeOnly', c.office_only, 'marks', coalesce(u.n, 0)) order by c.position), '[]')
           from attendance_code c left join used u on u.code_id = c.id
           where c.school_id = s.school_id and c.set_id = s.id) as codes
        from attendance_code_set s order by s.first_day desc`.execute(context.db),
      context.may(editCodes, {}),
    ])
    return { sets: rows, mayChange }
  },
})

/**
 * Marks on days that another set covers now take the code of the same name there. Refused when a mark would be left
 * without a code.
 */
async function recode({ db, now, actor }: Context) {
  const outside = sql`attendance_mark m join attendance_code o on o.school_id = m.school_id and o.id = m.code_id
    join attendance_code_set os on os.school_id = o.school_id and os.id = o.set_id
    where not (m.session_date between os.first_day and coalesce(os.last_day, 'infinity'))`
  await sql`update attendance_mark t set code_id = n.id, changed_by = ${actor.name}, changed_at = ${now}
    from (select m.student_id, m.session_date, m.session, o.code from ${outside}) w
    join attendance_code_set s on w.session_date between s.first_day and coalesce(s.last_day, 'infinity')
    join attendance_code n on n.school_id = s.school_id and n.set_id = s.id and n.code = w.code
    where t.student_id = w.student_id and t.session_date = w.session_date and t.session = w.session`.execute(
    db,
  )
  const { rows } = await sql<{ code: string; marks: number; from: string; to: string }>`
    select o.code, count(*)::int as marks, min(m.session_date)::text as "from", max(m.session_date)::text as "to"
    from ${outside} group by o.code order by o.code`.execute(db)
  if (rows.length > 0) throw refuse('marksWithoutCode', { codes: rows })
}

/** How many marks of a set lack the minutes or the note that their codes ask for: complete before, perhaps. */
async function lackingIn({ db }: Context, setId: string) {
  const { rows } = await sql<{ minutes: number; notes: number }>`
    select (count(*) filter (where c.needs_minutes and m.minutes_late is null))::int as minutes,
      (count(*) filter (where c.needs_note and coalesce(m.note, '') = ''))::int as notes
    from attendance_code c join attendance_mark m on m.school_id = c.school_id and m.code_id = c.id
    where c.set_id = ${setId} and (c.needs_minutes or c.needs_note)`.execute(db)
  return { lackMinutes: rows[0]?.minutes ?? 0, lackNotes: rows[0]?.notes ?? 0 }
}

/** Refuses when an absence that is planned would have no code on some of its days, or one that says "here". */
async function checkPlans({ db }: Context) {
  const { rows } = await sql<{ student: string; code: string; firstDay: string; lastDay: string }>`
    select distinct p.student, p.code, p.first_day::text, p.last_day::text from (${plansWithoutCode}) p
    order by 3, 1 limit 20`.execute(db)
  if (rows.length > 0) throw refuse('plansWithoutCode', { plans: rows })
}

/** Refuses when a code of the set that is not kept is in use. */
async function refuseUsed({ db }: Context, setId: string, kept: readonly string[]) {
  const { rows } = await sql<{ code: string; marks: number; planned: number }>`
    select * from (select c.code,
      (select count(*)::int from attendance_mark m where m.school_id = c.school_id and m.code_id = c.id) as marks,
      (select count(*)::int from planned_absence p where p.school_id = c.school_id and p.code_id = c.id) as planned
      from attendance_code c where c.set_id = ${setId} and c.id <> all(${kept}::uuid[])) x
    where marks + planned > 0 order by code limit 1`.execute(db)
  const [used] = rows
  if (used) throw refuse('codeInUse', used)
}

/** Makes a set of codes, or changes one. A new set ends the one in use before; marks keep their codes. */
export const saveCodeSet = defineCommand({
  input: codeSetInput,
  right: editCodes,
  undo,
  run: async (context, { setId: own, expectedVersion: version, name, firstDay, lastDay = null, codes }) => {
    const { db, actor } = context
    const setId = own ?? uuid()
    await makeRoomAmong(context, 'attendanceCodeSet', { id: setId, firstDay, lastDay }, (other) =>
      refuseField('firstDay', 'setOverlaps', other),
    )
    if (own)
      await updateIfUnchanged(
        context,
        'attendanceCodeSet',
        { id: setId },
        version,
        { name, firstDay, lastDay },
        { what: 'this set' },
      )
    else
      await db
        .insertInto('attendanceCodeSet')
        .values({ schoolId: actor.schoolId, id: setId, name, firstDay, lastDay })
        .execute()
    const ids = codes.map((c) => c.id)
    await refuseUsed(context, setId, ids)
    await sql`delete from attendance_code where set_id = ${setId} and id <> all(${ids}::uuid[])`.execute(db)
    const asked = sql`jsonb_to_recordset(${JSON.stringify(codes.map((c, i) => ({ ...c, position: i + 1 })))}::jsonb)
      as a(id uuid, code text, label text, "familyLabel" text, meaning text, "needsMinutes" boolean, "needsNote" boolean,
        "officeOnly" boolean, position smallint)`
    // Only what differs is written, so that the history says what was changed.
    const { rows: saved } = await sql<{ id: string }>`
      insert into attendance_code as c (school_id, id, set_id, code, label, family_label, meaning, needs_minutes, needs_note,
        office_only, position)
      select ${actor.schoolId}, a.id, ${setId}, a.code, a.label, a."familyLabel", a.meaning, a."needsMinutes", a."needsNote",
        a."officeOnly", a.position from ${asked}
      on conflict (school_id, id) do update set code = excluded.code, label = excluded.label,
        family_label = excluded.family_label, meaning = excluded.meaning, needs_minutes = excluded.needs_minutes,
        needs_note = excluded.needs_note, office_only = excluded.office_only, position = excluded.position
        where c.set_id = excluded.set_id and (c.code, c.label, c.family_label, c.meaning, c.needs_minutes, c.needs_note,
          c.office_only, c.position) is distinct from (excluded.code, excluded.label, excluded.family_label,
          excluded.meaning, excluded.needs_minutes, excluded.needs_note, excluded.office_only, excluded.position)
      returning id`.execute(db)
    const { rows: foreign } =
      await sql`select 1 from attendance_code where id = any(${ids}::uuid[]) and set_id <> ${setId}
      limit 1`.execute(db)
    if (foreign.length > 0) throw refuse('codeOfAnotherSet', {})
    await recode(context)
    await checkPlans(context)
    context.changed(...topics())
    return { setId, changed: saved.length, ...(await lackingIn(context, setId)) }
  },
})

/** Removes a set whose codes no mark uses. */
export const removeCodeSet = defineCommand({
  input: z.object({ setId: id, expectedVersion }),
  right: editCodes,
  undo,
  run: async (context, { setId, expectedVersion: version }) => {
    const { db } = context
    await checkUnchanged(context, 'attendanceCodeSet', { id: setId }, version, 'this set')
    await refuseUsed(context, setId, [])
    const others = await db
      .selectFrom('attendanceCodeSet')
      .select('id')
      .where('id', '!=', setId)
      .limit(1)
      .execute()
    if (others.length === 0) throw refuse('lastCodeSet', {})
    await db.deleteFrom('attendanceCode').where('setId', '=', setId).execute()
    await db.deleteFrom('attendanceCodeSet').where('id', '=', setId).execute()
    context.changed(...topics())
    return null
  },
})
