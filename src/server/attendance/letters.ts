import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { limits } from '@/core/limits'
import { shortDate } from '@/core/calendar/date-words'
import { letterTemplateInput, lettersInput } from '@/core/attendance/inputs'
import { figureValues, fillLetter, type LetterValues } from '@/core/attendance/letter'
import { spokenName } from '@/core/people/names'
import { id, expectedVersion } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { notFound, Refusal } from '@/server/platform/failure'
import { queueMails } from '@/server/platform/mail'
import { checkUnchanged, updateIfUnchanged } from '@/server/platform/write'
import { loadYear } from '@/server/school/load-year'
import { lettersTopic } from '@/server/school/topics'
import { loadFigures, loadLessonFigures } from './load-figures'
import { attendanceLetter } from './mails'
import { writeLetters } from './rights'
import { refuse, refuseField } from './messages'
import { attendanceThreshold } from './threshold'

const undo = { days: 30, whenChangedSince: 'stop', topics: () => [lettersTopic()] } as const

/** Templates of letters, and the letters that were sent, the latest first, with whether each has gone out. */
export const letters = defineQuery({
  input: z.object({}),
  right: writeLetters,
  topics: () => [lettersTopic()],
  run: async ({ db }) => {
    const [templates, { rows: sent }] = await Promise.all([
      db
        .selectFrom('letterTemplate')
        .select(['id', 'name', 'subject', 'body', 'version'])
        .orderBy('name')
        .execute(),
      sql<{
        id: string
        studentId: string
        student: string
        guardian: string
        subject: string
        template: string
        percent: string
        sender: string
        state: 'waiting' | 'sent' | 'failed'
        at: string
      }>`
        select m.id, m.student_id, s.sort_name as student, m.to_name as guardian, m.subject, m.about ->> 'template' as template,
          m.about ->> 'percent' as percent, m.about ->> 'sender' as sender, m.state, coalesce(m.sent_at, m.created_at) as at
        from mail m join student s on s.id = m.student_id
        where m.kind = 'attendance.attendanceLetter' order by m.id desc limit ${limits.lettersShown}`.execute(
        db,
      ),
    ])
    return { templates, sent }
  },
})

/** Makes a template of a letter, or changes one. Letters that were sent stay as they were written. */
export const saveLetterTemplate = defineCommand({
  input: letterTemplateInput,
  right: writeLetters,
  undo,
  run: async (context, { templateId, expectedVersion: version, ...columns }) => {
    const { db, actor } = context
    const other = await db
      .selectFrom('letterTemplate')
      .select('id')
      .where(sql<boolean>`lower(name) = lower(${columns.name})`)
      .where(sql<boolean>`id is distinct from ${templateId ?? null}::uuid`)
      .executeTakeFirst()
    if (other) throw refuseField('name', 'templateExists', { name: columns.name })
    const savedId = templateId ?? uuid()
    if (templateId)
      await updateIfUnchanged(context, 'letterTemplate', { id: templateId }, version, columns, {
        what: 'this template',
      })
    else
      await db
        .insertInto('letterTemplate')
        .values({ schoolId: actor.schoolId, id: savedId, ...columns })
        .execute()
    context.changed(lettersTopic())
    return { templateId: savedId }
  },
})

/** Removes a template. Letters that were written from it stay on record. */
export const removeLetterTemplate = defineCommand({
  input: z.object({ templateId: id, expectedVersion }),
  right: writeLetters,
  undo,
  run: async (context, { templateId, expectedVersion: version }) => {
    await checkUnchanged(context, 'letterTemplate', { id: templateId }, version, 'this template')
    await context.db.deleteFrom('letterTemplate').where('id', '=', templateId).execute()
    context.changed(lettersTopic())
    return null
  },
})

interface Letter {
  readonly studentId: string
  readonly student: string
  readonly guardianId: string
  readonly guardian: string
  readonly email: string | null
  readonly values: LetterValues
  /** Per cent present where that is not below the school's threshold, else null. */
  readonly above: number | null
  /** When the family was last written to about attendance, in the days that count as lately. */
  readonly lately: string | null
}

/** Days in which a family is not written to twice unless that is wanted. */
const latelyDays = 14

/** One letter for each guardian who may receive what the school sends, of each student, with what it says. */
async function lettersFor(
  context: Context,
  { studentIds, from, date, sessions, classId }: z.infer<typeof lettersInput>,
): Promise<readonly Letter[]> {
  const { db, actor, now } = context
  const year = await loadYear(db, date)
  if (!year) throw refuse('noSession', { date })
  const [threshold, figures, ofClass, { rows }] = await Promise.all([
    attendanceThreshold(context),
    sessions === 'half-days'
      ? loadFigures(context, year, studentIds, from, date)
      : loadLessonFigures(db, studentIds, from, date, classId),
    classId === null
      ? undefined
      : db.selectFrom('class').select('name').where('id', '=', classId).executeTakeFirst(),
    sql<Omit<Letter, 'values' | 'above'>>`
      select s.id as student_id, s.sort_name as student, g.id as guardian_id, g.given_name || ' ' || g.family_name as guardian,
        nullif(g.email, '') as email, (select max(m.created_at)::text from mail m where m.student_id = s.id and m.guardian_id = g.id
          and m.kind = 'attendance.attendanceLetter' and m.created_at > ${now}::timestamptz - make_interval(days => ${latelyDays})) as lately
      from student s join guardianship r on r.student_id = s.id and r.may_receive_reports join guardian g on g.id = r.guardian_id
      where s.id = any(${studentIds}::uuid[]) and s.merged_into is null order by s.sort_name, r.contact_order`.execute(
      db,
    ),
  ])
  if (classId !== null && !ofClass) throw new Refusal(notFound)
  return rows.flatMap((row) => {
    const own = figures.get(row.studentId)
    if (!own || own.possible === 0) return []
    const values: LetterValues = {
      ...figureValues(own),
      sessions: ofClass ? `lessons of ${ofClass.name}` : sessions,
      guardian: row.guardian,
      student: spokenName(row.student),
      from: shortDate(from, true),
      to: shortDate(date, true),
      school: actor.schoolName,
      sender: actor.name,
    }
    const percent = Number(own.percentPresent)
    return { ...row, values, above: percent >= threshold ? percent : null }
  })
}

/** What letters would say and whom they would reach, before they are sent. */
export const lettersToSend = defineQuery({
  input: lettersInput,
  right: writeLetters,
  run: async (context, asked) => {
    const template = await templateOf(context, asked.templateId)
    const all = await lettersFor(context, asked)
    const reached = all.filter((l) => l.email && (asked.again || l.lately === null))
    const [first] = reached
    return {
      reached: reached.length,
      students: new Set(reached.map((l) => l.studentId)).size,
      withoutAddress: all.filter((l) => !l.email).map(({ guardian, student }) => `${guardian} (${student})`),
      above: [
        ...new Map(
          reached.flatMap((l) => (l.above === null ? [] : [[l.studentId, `${l.student} (${l.above}%)`]])),
        ).values(),
      ],
      lately: all.filter((l) => l.lately !== null).map(({ guardian, student }) => `${guardian} (${student})`),
      first: first && {
        to: first.guardian,
        subject: fillLetter(template.subject, first.values),
        body: fillLetter(template.body, first.values),
      },
    }
  },
})

async function templateOf({ db }: Context, templateId: string) {
  const template = await db
    .selectFrom('letterTemplate')
    .select(['name', 'subject', 'body', 'version'])
    .where('id', '=', templateId)
    .executeTakeFirst()
  if (!template) throw new Refusal(notFound)
  return template
}

/** Sends letters about attendance, each guardian their own, through the mail queue; what was sent stays on record. */
export const sendLetters = defineCommand({
  input: lettersInput,
  right: writeLetters,
  run: async (context, asked) => {
    const { actor, runId, db } = context
    // Two who send at once come one after the other, so that the second sees who was written to.
    await sql`select pg_advisory_xact_lock(hashtextextended(${`letters ${actor.schoolId}`}, 5))`.execute(db)
    const template = await templateOf(context, asked.templateId)
    if (template.version !== asked.expectedVersion) throw refuse('templateChanged', {})
    const all = await lettersFor(context, asked)
    const reached = all.filter((l) => l.email && (asked.again || l.lately === null))
    if (reached.length === 0) throw refuse('nobodyToWrite', {})
    const above = [...new Set(reached.filter((l) => l.above !== null).map((l) => l.student))]
    if (above.length > 0 && !asked.aboveToo) throw refuseField('aboveToo', 'notBelow', { students: above })
    await queueMails(
      context,
      attendanceLetter,
      reached.map((l) => ({
        dedupe: `letter:${runId}:${l.studentId}:${l.guardianId}`,
        toName: l.guardian,
        toAddress: l.email ?? '',
        studentId: l.studentId,
        guardianId: l.guardianId,
        about: {
          subject: fillLetter(template.subject, l.values),
          body: fillLetter(template.body, l.values),
          template: template.name,
          percent: l.values.percent,
          sender: actor.name,
          school: actor.schoolName,
        },
      })),
    )
    context.changed(lettersTopic())
    return { sent: reached.length }
  },
})
