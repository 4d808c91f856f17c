import { sql } from 'kysely'
import { z } from 'zod'
import { staffRoles } from '@/server/platform/actor'
import { defineCommand, defineDomain, defineQuery, type Found } from '@/server/platform/define'
import { civilDate, id } from '@/core/inputs'
import { defineJob, startJob } from '@/server/platform/job'
import { defineMail, queueMails } from '@/server/platform/mail'
import { defineRecurring } from '@/server/platform/recurring'
import { onlyRoles } from '@/server/platform/rights'
import { defineTopic } from '@/server/platform/topic'
import { textOf } from '@/server/platform/words'

/** A domain that is there for a test only: short notes about students. Its table is made by the test. */

const takeNotes = onlyRoles('take notes', ...staffRoles)
const notesTopic = defineTopic('notes')

const list = defineQuery({
  input: z.object({}),
  right: takeNotes,
  topics: () => [notesTopic()],
  run: async ({ db }) =>
    (
      await sql<{
        studentId: string
        words: string
        version: number
      }>`select student_id, words, version from note`.execute(db)
    ).rows,
})

/** Writes the same words about the first so many students, and moves their homeroom to a new period. */
const writeForMany = defineCommand({
  input: z.object({ words: z.string(), most: z.number().int(), from: civilDate }),
  right: takeNotes,
  undo: { days: 30, whenChangedSince: 'stop', topics: () => [notesTopic()] },
  run: async ({ db, actor, changed }, { words, most, from }) => {
    await sql`insert into note (school_id, student_id, words)
      select ${actor.schoolId}, id, ${words} from (select id from student where number > 100 order by number limit ${most}) s
      on conflict (school_id, student_id) do update set words = excluded.words`.execute(db)
    await sql`update homeroom_member set period = daterange(lower(period), ${from}::date)
      where upper(period) is null and student_id in (select id from student where number > 100 order by number limit ${most})`.execute(
      db,
    )
    changed(notesTopic())
    return null
  },
})

const deleteAll = defineCommand({
  input: z.object({}),
  right: takeNotes,
  undo: { days: 30, whenChangedSince: 'leave' },
  run: async ({ db }) => {
    await sql`delete from note`.execute(db)
    return null
  },
})

const countJob = defineJob({
  input: z.object({}),
  right: takeNotes,
  run: async (steps) => {
    const notes = await steps.query(list, {})
    const seen: string[] = []
    await steps.each(
      notes.slice(0, 5),
      (note) => note.studentId,
      async (note) => void seen.push(note.words),
    )
    return { message: `${seen.length} notes` }
  },
})
const startCount = defineCommand({
  input: z.object({}),
  right: takeNotes,
  run: async (context) => ({ jobId: await startJob(context, countJob, {}, { title: 'Count notes' }) }),
})

const noteMail = defineMail<{ words: string }>({
  subject: ({ words }) => `A note: ${words}`,
  body: ({ words }) => words,
  example: { words: 'Sails well' },
})
const send = defineCommand({
  input: z.object({ studentId: id }),
  right: takeNotes,
  run: async (context, { studentId }) => {
    await queueMails(context, noteMail, [
      { dedupe: `note:${studentId}`, toName: 'A', toAddress: 'a@b.example', about: { words: 'Sails well' } },
    ])
    return null
  },
})

export const notes = defineDomain({
  name: 'notes',
  tables: [],
  reads: ['people'],
  queries: { list },
  commands: { writeForMany, deleteAll, startCount, send },
  jobs: { count: countJob },
  mails: { note: noteMail },
  recurring: {
    daily: defineRecurring({
      at: '00:01',
      on: 'every day',
      run: async ({ db, actor }, day) => {
        await sql`insert into note_day (school_id, day) values (${actor.schoolId}, ${day})`.execute(db)
      },
    }),
  },
  due: [
    {
      topics: () => [notesTopic()],
      items: async () => [
        {
          what: 'Read the notes',
          detail: '',
          href: '/notes',
          due: '2026-11-24',
          overdue: false,
          act: 'Read',
        },
      ],
    },
  ],
  find: [
    (_context, words) => sql<Found>`
      select 'note' as kind, student_id as id, words as name, 'note' as detail, '/notes/' || student_id as href
      from note where lower(words) like all (${words}) limit 8`,
  ],
  places: [{ name: 'Notes', href: '/notes', right: takeNotes, position: 2.5 }],
  history: { note: { kind: 'Note', which: (v) => textOf(v.words), columns: { words: 'words' } } },
})
