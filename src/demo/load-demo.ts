import { createHash } from 'node:crypto'
import { sql, type Kysely } from 'kysely'
import type { CivilDate } from '@/core/calendar/school-year'
import { connect } from '@/db/connection'
import { loadRows } from '@/db/load-rows'
import type { Tables } from '@/db/tables'
import { hashPassword } from '@/server/platform/password-hash'
import { assessmentRows } from './assessments'
import { attendanceRows } from './attendance'
import { demoDate, septemberOf, wracklineYear } from './calendar'
import { heatAndIce, printTest } from './heat-and-ice'
import { holdMarks } from './hold-marks'
import { marksRows } from './marks'
import { fillYear } from './large'
import { demoPasswords } from './passwords'
import { makePeople, peopleRows, type DemoPeople } from './people'
import { seeded } from './random'
import { reportRows } from './reports'
import { tellStories } from './stories'
import { targetRows } from './targets'
import { makeStructure, structureRows, type DemoStructure } from './structure'

const schoolId = '00000000-0000-7000-8000-00000000aaaa'

interface AccountRows {
  readonly users: object[]
  readonly accounts: object[]
  readonly memberships: object[]
}

async function accountRows(
  s: DemoStructure,
  { students, applicant }: DemoPeople,
  ownSchool: string,
): Promise<AccountRows> {
  const hashes = {
    chosen: await hashPassword(demoPasswords.chosen),
    initial: await hashPassword(demoPasswords.initial),
  }
  const rows: AccountRows = { users: [], accounts: [], memberships: [] }
  const add = (personId: string, username: string, name: string, role: string, initial: boolean) => {
    rows.users.push({
      id: personId,
      name,
      email: username.includes('@') ? username : `${username}@wrackline.example`,
      emailVerified: false,
      username: username.includes('@') ? null : username,
      displayUsername: username.includes('@') ? null : username,
      mustChangePassword: initial,
      createdAt: `${s.today}T08:00:00Z`,
      updatedAt: `${s.today}T08:00:00Z`,
    })
    rows.accounts.push({
      id: personId,
      userId: personId,
      accountId: personId,
      providerId: 'credential',
      password: initial ? hashes.initial : hashes.chosen,
      createdAt: `${s.today}T08:00:00Z`,
      updatedAt: `${s.today}T08:00:00Z`,
    })
    rows.memberships.push({
      schoolId: ownSchool,
      accountId: personId,
      role,
      personId,
      name,
      active: true,
    })
  }
  for (const t of s.staff) add(t.id, t.username, `${t.given} ${t.family}`, t.role, t.initial)
  const guardians = new Map(
    students.flatMap((x) => x.guardians.map((g) => [g.guardian.id, g.guardian] as const)),
  )
  guardians.set(applicant.guardian.id, applicant.guardian)
  for (const g of guardians.values()) add(g.id, g.email, `${g.given} ${g.family}`, 'guardian', false)
  return rows
}

/**
 * Loads Wrackline School into an empty database; does nothing when it already exists.
 * @param ownerUrl connection of the role that owns the tables
 * @param date the day that counts as today; moved back to the last school day
 * @returns the date the demo works on
 */
export async function loadDemo(ownerUrl: string, date: CivilDate): Promise<CivilDate> {
  const random = seeded(20261123)
  const year = wracklineYear(septemberOf(date), random)
  const today = demoDate(date, year)
  const db = connect(ownerUrl, { max: 1 })
  try {
    await db.transaction().execute(async (tx) => {
      await sql`select set_config('kedge.school', ${schoolId}, true), set_config('kedge.history', 'off', true)`.execute(
        tx,
      )
      const there = await tx.selectFrom('school').select('id').where('id', '=', schoolId).executeTakeFirst()
      if (there) return
      const school = { id: schoolId }
      const structure = makeStructure(year, today, random)
      const people = makePeople(structure, random)
      const marks = marksRows(school, structure, people, random)
      const { rows: targetsOfClasses, targets } = targetRows(school, structure, people)
      const accounts = await accountRows(structure, people, schoolId)
      const tables: readonly (readonly [string, readonly object[]])[] = [
        [
          'school',
          [
            {
              id: schoolId,
              name: 'Wrackline School',
              shortName: 'wrackline',
              locale: 'en-GB',
              timeZone: 'Europe/London',
              createdAt: `${year.firstDay}T08:00:00Z`,
            },
          ],
        ],
        ...structureRows(school, structure),
        ...peopleRows(school, structure, people),
        ...attendanceRows(school, structure, people, random),
        ...marks.rows,
        ...targetsOfClasses,
        ...assessmentRows(school, structure, people, marks.categories, random),
        ...reportRows(school, structure, people, targets, random),
        ['auth.user', accounts.users],
        ['auth.account', accounts.accounts],
        ['membership', accounts.memberships],
      ]
      for (const [table, rows] of tables) await loadRows(tx, table, rows)
      await tellStories(tx, school, structure, people)
      await holdMarks(tx, today, school)
      const bytes = await printTest('Heat and ice', heatAndIce)
      const owner = structure.staff.find((t) => t.username === 'r.achterberg')
      const documentId = random.uuid()
      await tx
        .insertInto('document')
        .values({
          schoolId,
          id: documentId,
          name: 'Heat and ice.pdf',
          mediaType: 'application/pdf',
          size: bytes.length,
          sha256: createHash('sha256').update(bytes).digest('hex'),
          pageCount: 3,
          createdBy: owner?.id ?? '',
        })
        .execute()
      await tx.insertInto('documentContents').values({ schoolId, documentId, bytes }).execute()
    })
    await sql`analyze`.execute(db)
  } finally {
    await db.destroy()
  }
  return today
}

/**
 * Whether the role was granted `set on parameter session_replication_role`. Rows made from each other's keys then
 * need no check of every foreign key, which takes most of the time of loading.
 */
async function maySkipTriggers(db: Kysely<Tables>): Promise<boolean> {
  const { rows } = await sql<{ may: boolean }>`
    select has_parameter_privilege('session_replication_role', 'set') as may`.execute(db)
  return rows[0]?.may === true
}

/**
 * Loads many schools of twice Wrackline's size for benchmarks, each with a full year of registers and scores. Only
 * the first has accounts, those of the demo.
 * @param schools how many; 40 make about 50,000 students
 */
export async function loadLarge(
  ownerUrl: string,
  schools: number,
  told: (line: string) => void,
): Promise<void> {
  const date = '2027-06-14'
  const db = connect(ownerUrl, { max: 1 })
  try {
    const trusting = await maySkipTriggers(db)
    for (let n = 1; n <= schools; n++) {
      const random = seeded(1000 + n)
      const year = wracklineYear(septemberOf(date), random)
      const id = `00000000-0000-7000-8000-${String(n).padStart(12, '0')}`
      await db.transaction().execute(async (tx) => {
        await sql`select set_config('kedge.school', ${id}, true), set_config('kedge.history', 'off', true)`.execute(
          tx,
        )
        if (trusting) await sql`set local session_replication_role = replica`.execute(tx)
        const structure = makeStructure(year, demoDate(date, year), random)
        const people = makePeople(structure, random, 2)
        const accounts = n === 1 ? await accountRows(structure, people, id) : undefined
        const tables: readonly (readonly [string, readonly object[]])[] = [
          [
            'school',
            [
              {
                id,
                name: `Benchmark school ${n}`,
                shortName: `bench-${n}`,
                locale: 'en-GB',
                timeZone: 'Europe/London',
                createdAt: `${year.firstDay}T08:00:00Z`,
              },
            ],
          ],
          ...structureRows({ id }, structure),
          ...peopleRows({ id }, structure, people),
          ...(accounts
            ? ([
                ['auth.user', accounts.users],
                ['auth.account', accounts.accounts],
                ['membership', accounts.memberships],
              ] as const)
            : []),
        ]
        for (const [table, rows] of tables) await loadRows(tx, table, rows)
        await fillYear(tx, id, structure)
      })
      told(`school ${n} of ${schools}`)
    }
    await sql`analyze`.execute(db)
  } finally {
    await db.destroy()
  }
}
