import { sql } from 'kysely'
import { sessionsBegun } from '@/core/attendance/sessions'
import { dayKind } from '@/core/calendar/school-year'
import { localTime } from '@/server/platform/clock'
import { loadYear } from '@/server/school/load-year'
import { v7 as uuid } from 'uuid'
import { remindInput } from '@/core/attendance/inputs'
import { config } from '@/server/platform/config'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { queueMails } from '@/server/platform/mail'
import { lessonsTopic, registersTopic } from '@/server/school/topics'
import { lessonStates } from './lessons-of-day'
import { registerReminder } from './mails'
import { registersOf } from './registers-of-day'
import { remindTeachers } from './rights'
import { registerTopic } from './roll'
import { refuse } from './messages'

interface Open {
  readonly of: string
  readonly marked: number
  readonly onRoll: number
  readonly url: string
}

/** The register that is asked for, as it stands; refused where it does not exist, has not begun or is complete. */
async function openRegister(context: Context, { homeroomId, classId, date, session }: Asked): Promise<Open> {
  if (date > context.today) throw refuse('future', { date })
  if (classId !== null) {
    const { lessons } = await lessonStates(context, date)
    const lesson = lessons.find((l) => l.classId === classId && String(l.period) === session)
    if (!lesson || lesson.cancelled || !lesson.register) throw refuse('noLesson', { date, period: session })
    if (!lesson.begun) throw refuse('lessonToCome', { starts: lesson.starts })
    return {
      of: lesson.name,
      marked: lesson.marked,
      onRoll: lesson.onRoll,
      url: `/classes/${classId}/register?session=${session}&date=${date}`,
    }
  }
  const year = await loadYear(context.db, date)
  const register = (await registersOf(context, date)).find((r) => r.id === homeroomId)
  if (!register || (session !== 'morning' && session !== 'afternoon')) throw refuse('noSession', { date })
  if (!year || dayKind(year, date).kind !== 'school day') throw refuse('noSession', { date })
  const begun = sessionsBegun(localTime(context.actor.timeZone).time)
  if (date === context.today && !begun.includes(session)) throw refuse('notBegun', { date })
  return {
    of: register.name,
    marked: register[session],
    onRoll: register.onRoll,
    url: `/attendance/registers/${homeroomId}?session=${session}&date=${date}`,
  }
}

interface Asked {
  readonly homeroomId: string | null
  readonly classId: string | null
  readonly date: string
  readonly session: string
}

/** Minutes in which a register is asked for once. */
const apart = 10

/**
 * Reminds those whose register is not complete, on Today and by mail. Within ten minutes it is done once, whoever asks.
 * @returns who was written to, and who has no address
 */
export const remind = defineCommand({
  input: remindInput,
  right: remindTeachers,
  needsNoVersion: 'reminds once in ten minutes',
  run: async (context, asked) => {
    const { db, actor, now } = context
    const { homeroomId, classId, date, session } = asked
    // Two who remind at once come one after the other, so that nobody is written to twice.
    await sql`select pg_advisory_xact_lock(hashtextextended(${`remind ${homeroomId ?? classId ?? ''} ${date} ${session}`}, 5))`.execute(
      db,
    )
    const open = await openRegister(context, asked)
    if (open.marked >= open.onRoll) throw refuse('registerComplete', { of: open.of })
    const { rows: before } = await sql<{ by: string }>`select reminded_by as by from register_reminder
      where homeroom_id is not distinct from ${homeroomId}::uuid and class_id is not distinct from ${classId}::uuid
        and session_date = ${date} and session = ${session}
        and reminded_at > ${now}::timestamptz - make_interval(mins => ${apart}) limit 1`.execute(db)
    if (before[0]) throw refuse('remindedAlready', { by: before[0].by, minutes: apart })
    const { rows: teachers } = await sql<{ id: string; name: string; email: string | null }>`
      select f.id, f.given_name || ' ' || f.family_name as name, nullif(f.email, '') as email from staff_member f
      where f.id in (
        select t.staff_id from homeroom_teacher t where t.homeroom_id = ${homeroomId}::uuid and t.period @> ${date}::date
        union select x.staff_id from lesson_change x
          where x.class_id = ${classId}::uuid and x.on_date = ${date} and x.period::text = ${session} and x.staff_id is not null
        union select t.staff_id from class_teacher t where t.class_id = ${classId}::uuid and t.period @> ${date}::date
          and not exists (select 1 from lesson_change x where x.class_id = t.class_id and x.on_date = ${date}
            and x.period::text = ${session} and x.staff_id is not null))
      order by f.sort_name`.execute(db)
    if (teachers.length === 0) throw refuse('nobodyToRemind', { of: open.of })
    const id = uuid()
    await db
      .insertInto('registerReminder')
      .values({
        schoolId: actor.schoolId,
        id,
        homeroomId,
        classId,
        sessionDate: date,
        session,
        remindedBy: actor.name,
        remindedAt: now,
      })
      .execute()
    await queueMails(
      context,
      registerReminder,
      teachers.flatMap((t) =>
        t.email === null
          ? []
          : {
              dedupe: `register:${id}:${t.id}`,
              toName: t.name,
              toAddress: t.email,
              about: {
                teacher: t.name,
                of: open.of,
                date,
                session,
                state:
                  open.marked === 0
                    ? `${open.onRoll} on roll, not started`
                    : `${open.onRoll - open.marked} of ${open.onRoll} not marked`,
                sender: actor.name,
                school: actor.schoolName,
                url: `${config().KEDGE_URL}${open.url}`,
              },
            },
      ),
    )
    context.changed(registersTopic(), lessonsTopic(), registerTopic({ homeroomId, classId }))
    return {
      written: teachers.filter((t) => t.email !== null).map((t) => t.name),
      withoutAddress: teachers.filter((t) => t.email === null).map((t) => t.name),
    }
  },
})
