import pg from 'pg'
import { clockActor } from '@/server/platform/actor'
import { actInSchool } from '@/server/platform/in-school'
import { check } from '@/server/front/check'

/**
 * Goes through the rules that always hold, school by school, and keeps what is found where administrators see it.
 * @param ownerUrl connection of the role that owns the tables, which sees all schools
 * @param say called with each line of the report
 * @returns whether everything holds
 */
export async function checkSchools(ownerUrl: string, say: (line: string) => void): Promise<boolean> {
  const owner = new pg.Client({ connectionString: ownerUrl })
  await owner.connect()
  const { rows } = await owner.query<{ id: string; name: string; timeZone: string }>(
    'select id, name, time_zone as "timeZone" from kedge_schools()',
  )
  await owner.end()
  let isGood = true
  for (const school of rows) {
    const checked = await actInSchool(clockActor(school), { command: 'check.now' }, (context) =>
      check(context),
    )
    const broken = checked.filter(({ which }) => which.length > 0)
    say(
      broken.length === 0
        ? `${school.name}: all ${checked.length} rules hold.`
        : `${school.name}: ${broken.length} of ${checked.length} rules are broken.`,
    )
    for (const { rule, which } of broken) say(`  ${rule}. Not so for: ${which.join('; ')}`)
    if (broken.length > 0) isGood = false
  }
  return isGood
}
