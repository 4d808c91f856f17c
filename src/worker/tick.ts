import type pg from 'pg'
import { schoolDays } from '@/core/calendar/school-year'
import { clockActor, type Actor } from '@/server/platform/actor'
import { localTime } from '@/server/platform/clock'
import { actInSchool } from '@/server/platform/in-school'
import { deleteExpired } from '@/server/platform/expired'
import { log } from '@/server/platform/log'
import { loadYear } from '@/server/school/load-year'
import { recurring } from '@/server/registry'
import { endLostJobs } from './run-job'

/** Every school with its time zone; asked on the owner's connection, since no school is set yet. */
async function allSchools(
  owner: pg.Client,
): Promise<readonly { id: string; name: string; timeZone: string }[]> {
  const { rows } = await owner.query<{ id: string; name: string; timeZone: string }>(
    'select id, name, time_zone as "timeZone" from kedge_schools()',
  )
  return rows
}

/** Identifiers of jobs that the queue will still run or is running. */
async function aliveJobs(owner: pg.Client): Promise<readonly string[]> {
  const { rows } = await owner.query<{ key: string }>(
    `select j.key from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id
      where t.identifier = 'run-job' and j.key is not null and (j.attempts < j.max_attempts or j.locked_at is not null)`,
  )
  return rows.map((row) => row.key)
}

/** Does one piece of recurring work for a day, unless it was done already; both or neither are kept. */
async function doOnce(actor: Actor, name: string, day: string): Promise<void> {
  const entry = recurring.get(name)
  if (!entry) return
  await actInSchool(actor, { command: name }, async (context) => {
    if (entry.on === 'school days') {
      const year = await loadYear(context.db, day)
      if (!year || schoolDays(year, day, day).length === 0) return
    }
    const isNew = await context.db
      .insertInto('occurrence')
      .values({ schoolId: actor.schoolId, name, day })
      .onConflict((c) => c.doNothing())
      .returning('day')
      .executeTakeFirst()
    if (isNew) await entry.run(context, day)
  })
}

/** What is over in the whole installation is deleted once an hour. */
async function tidy(done: Set<string>): Promise<void> {
  const hour = `expired ${new Date().toISOString().slice(0, 13)}`
  if (done.has(hour)) return
  await deleteExpired().then(
    () => done.add(hour),
    (error: Error) => log().error({ error: error.stack }, 'deleting what has expired failed'),
  )
}

/**
 * What the clock does once a minute: recurring work that is due in any school, jobs that were lost, and what is over.
 * @param done what this process knows to be done, so that it does not ask again all day; the database decides
 */
export async function tick(owner: pg.Client, done: Set<string>): Promise<void> {
  await tidy(done)
  for (const school of await allSchools(owner)) {
    const { date, time } = localTime(school.timeZone)
    for (const [name, { at }] of recurring)
      if (time >= at && !done.has(`${school.id} ${name} ${date}`))
        await doOnce(clockActor(school), name, date).then(
          () => done.add(`${school.id} ${name} ${date}`),
          // One school's trouble must not keep the others waiting; it is tried again in a minute.
          (error: Error) =>
            log().error({ school: school.id, name, error: error.stack }, 'recurring work failed'),
        )
    await endLostJobs(school.id, () => aliveJobs(owner))
  }
}
