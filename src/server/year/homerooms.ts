import { sql } from 'kysely'
import { addDays } from '@/core/calendar/school-year'
import { closeHomeroomInput, homeroomInput } from '@/core/calendar/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { homeroomStudentsAfter } from '@/server/school/facts'
import { registersTopic, rollTopic, yearTopic } from '@/server/school/topics'
import { setUpYear } from './rights'
import { setTeachers } from './teachers'
import { refuse, refuseField } from './messages'

const undo = {
  days: 30,
  whenChangedSince: 'stop',
  topics: () => [yearTopic(), rollTopic(), registersTopic()],
} as const
const what = 'this homeroom'

/** Sets the room of a homeroom, and who looks after it from a day on. */
export const saveHomeroom = defineCommand({
  input: homeroomInput,
  right: setUpYear,
  undo,
  run: async (context, { homeroomId, expectedVersion, roomId, staffIds, from }) => {
    if (roomId && !(await roomThere(context, roomId))) throw refuse('roomGone', {})
    await updateIfUnchanged(
      context,
      'homeroom',
      { id: homeroomId },
      expectedVersion,
      { roomId: roomId ?? null },
      {
        what,
      },
    )
    await setTeachers(
      context,
      { table: 'homeroom_teacher', column: 'homeroom_id' },
      homeroomId,
      staffIds,
      from,
    )
    context.changed(yearTopic(), registersTopic(), rollTopic())
    return null
  },
})

const roomThere = ({ db }: Context, roomId: string) =>
  db.selectFrom('room').select('id').where('id', '=', roomId).executeTakeFirst()

/**
 * Closes a homeroom after a day, or opens it again: what was before stays, nobody can be put into it later, and its
 * teachers end. Refused while students belong to it after that day.
 */
export const closeHomeroom = defineCommand({
  input: closeHomeroomInput,
  right: setUpYear,
  undo,
  run: async (context, { homeroomId, expectedVersion, lastDay }) => {
    await updateIfUnchanged(
      context,
      'homeroom',
      { id: homeroomId },
      expectedVersion,
      { lastDay },
      {
        what,
      },
    )
    context.changed(yearTopic(), registersTopic(), rollTopic())
    if (lastDay === null) return null
    const { rows } = await sql<{ name: string; outside: string | null; students: number }>`
      select h.name, case when not daterange(y.first_day, y.last_day, '[]') @> ${lastDay}::date then y.name end as outside,
        ${homeroomStudentsAfter('h.id', lastDay)} as students
      from homeroom h join academic_year y on y.school_id = h.school_id and y.id = h.year_id
      where h.id = ${homeroomId}`.execute(context.db)
    const [found] = rows
    if (found?.outside) throw refuseField('lastDay', 'closingOutsideYear', { year: found.outside })
    if (found && found.students > 0)
      throw refuseField('lastDay', 'homeroomHasStudents', {
        name: found.name,
        students: found.students,
        lastDay,
      })
    await setTeachers(
      context,
      { table: 'homeroom_teacher', column: 'homeroom_id' },
      homeroomId,
      [],
      addDays(lastDay, 1),
    )
    return null
  },
})
