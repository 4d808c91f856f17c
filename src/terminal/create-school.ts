import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { sortName } from '@/core/people/names'
import { connect } from '@/db/connection'
import { initialPassword, makeAccount } from '@/server/platform/account'
import { isTimeZone } from '@/core/calendar/time-zone'
import { usualCodes } from '@/core/attendance/usual-codes'

export interface NewSchool {
  readonly name: string
  readonly shortName: string
  readonly username: string
  readonly adminName: string
  readonly timeZone?: string
}

/**
 * Makes a school with the usual attendance codes and grading scale, and its first administrator.
 * @returns the administrator's initial password
 * @throws Error in words when the short name or user name is taken
 */
export async function createSchool(ownerUrl: string, school: NewSchool): Promise<string> {
  const [given, family] = school.adminName.split(/\s+(?=\S+$)/)
  if (!given || !family)
    throw new Error('--admin-name needs a given and a family name, such as "Mara Vester".')
  if (!/^[a-z0-9-]{2,40}$/.test(school.shortName))
    throw new Error('--short may hold small letters, digits and hyphens, 2 to 40 of them.')
  if (school.timeZone !== undefined && !isTimeZone(school.timeZone))
    throw new Error(`${school.timeZone} is not a time zone. Name one such as Europe/London with --zone.`)
  const username = school.username.toLowerCase()
  const password = initialPassword()
  const db = connect(ownerUrl, { max: 1 })
  try {
    await db.transaction().execute(async (tx) => {
      const schoolId = uuid()
      const staffId = uuid()
      const own = { schoolId }
      await sql`select set_config('kedge.school', ${schoolId}, true), set_config('kedge.command', 'school create', true)`.execute(
        tx,
      )
      if (
        await tx
          .withoutPlugins()
          .selectFrom('auth.user')
          .select('id')
          .where('username', '=', username)
          .executeTakeFirst()
      )
        throw new Error(`The user name ${username} is taken. Choose another with --admin.`)
      await tx
        .insertInto('school')
        .values({
          id: schoolId,
          name: school.name,
          shortName: school.shortName,
          timeZone: school.timeZone ?? 'Europe/London',
        })
        .execute()
      await tx
        .insertInto('staffMember')
        .values({
          ...own,
          id: staffId,
          givenName: given,
          familyName: family,
          sortName: sortName(given, family),
          email: null,
          phone: null,
        })
        .execute()
      const accountId = await makeAccount(tx, {
        name: school.adminName,
        email: `${username}@${school.shortName}.invalid`,
        username: school.username,
        password,
        mustChangePassword: true,
      })
      await tx
        .insertInto('membership')
        .values({
          ...own,
          accountId,
          role: 'administrator',
          personId: staffId,
          name: school.adminName,
        })
        .execute()
      const setId = uuid()
      await tx
        .insertInto('attendanceCodeSet')
        .values({ ...own, id: setId, name: 'Usual codes', firstDay: '2020-01-01' })
        .execute()
      await tx
        .insertInto('attendanceCode')
        .values(
          usualCodes.map(([code, label, meaning], i) => ({
            ...own,
            id: uuid(),
            setId,
            code,
            label,
            meaning,
            position: i + 1,
          })),
        )
        .execute()
      const scaleId = uuid()
      await tx
        .insertInto('gradingScale')
        .values({ ...own, id: scaleId, name: 'A to E' })
        .execute()
      await sql`insert into scale_change (school_id, scale_id, starts_on) values (${own.schoolId}, ${scaleId}, '-infinity')`.execute(
        tx,
      )
      await tx
        .insertInto('gradingBand')
        .values(
          (
            [
              ['A', '90'],
              ['B', '80'],
              ['C', '70'],
              ['D', '60'],
              ['E', '0'],
            ] as const
          ).map(([grade, fromPercent]) => ({ ...own, scaleId, grade, fromPercent })),
        )
        .execute()
    })
  } catch (error) {
    if ((error as { constraint?: string }).constraint === 'school_short_name_key')
      throw new Error(`The short name ${school.shortName} is taken. Choose another with --short.`)
    throw error
  } finally {
    await db.destroy()
  }
  return password
}
