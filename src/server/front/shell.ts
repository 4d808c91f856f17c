import { sql } from 'kysely'
import { z } from 'zod'
import { termShownOn } from '@/core/calendar/school-year'
import { deviceKeyOf } from '@/server/platform/device-key'
import { hasRole, roles, staffRoles } from '@/server/platform/actor'
import { clockIsSet } from '@/server/platform/clock'
import type { Context } from '@/server/platform/context'
import { defineDomain, defineQuery, type DueItem, type Place } from '@/server/platform/define'
import { civilDate } from '@/core/inputs'
import { gather } from '@/server/platform/gather'
import { onlyRoles } from '@/server/platform/rights'
import { isHomeroomTeacherOf, isOpen, isTeacherOf } from '@/server/school/facts'
import { loadYear } from '@/server/school/load-year'
import { fromAll } from './all'
import { checkPlaces } from './check'
import { mailPlaces } from './mail'
import { dueItems, dueTopics, today as todayDomain } from './today'
import { ownWork } from './work'

const everyone = onlyRoles('see the page around their own', ...roles)

/** The newest report round that a class has entries in. */
const roundOf = sql<string | null>`(select e.round_id from class_entries e
  join report_round r on r.school_id = e.school_id and r.id = e.round_id
  where e.class_id = c.id order by r.due_on desc limit 1)`

/** Whether a class has lessons in which registers are taken. */
const takesLessons = sql<boolean>`exists (select 1 from lesson l where l.school_id = c.school_id and l.class_id = c.id)
  and exists (select 1 from course k join year_group g on g.school_id = k.school_id and g.id = k.year_group_id
    where k.school_id = c.school_id and k.id = c.course_id and g.registers <> 'half-days')`

function ownClasses(context: Context, date: string) {
  const { db, actor } = context
  const own = db
    .selectFrom('homeroom as h')
    .select([
      'h.id',
      'h.name',
      sql<'homeroom' | 'class'>`'homeroom'`.as('kind'),
      sql.lit(0).as('rank'),
      sql<string | null>`null::uuid`.as('roundId'),
      sql<boolean>`false`.as('lessons'),
    ])
    .where(isHomeroomTeacherOf(sql.ref('h.id'), actor.staffId, date))
    .unionAll(
      db
        .selectFrom('class as c')
        .select([
          'c.id',
          'c.name',
          sql<'homeroom' | 'class'>`'class'`.as('kind'),
          sql.lit(1).as('rank'),
          roundOf.as('roundId'),
          takesLessons.as('lessons'),
        ])
        .where(isTeacherOf(sql.ref('c.id'), actor.staffId, date))
        .where(isOpen('c.id')),
    )
    .orderBy('rank')
    .orderBy('name')
  return gather(context, own)
}

/** The headings among the pages of a place, in their order; pages without one come first. */
const groups = ['', 'The year', 'Structure', 'Rules', 'Running it']

/**
 * Places the actor may use, in the order of the rail, each with its pages and how much is due on them; and what else
 * the find box offers. A place with pages opens the first of them.
 */
async function ownPlaces(context: Context, due: readonly DueItem[]) {
  const all: readonly Place[] = [
    ...(todayDomain.places ?? []),
    ...fromAll((domain) => domain.places),
    ...mailPlaces(),
    ...checkPlaces(),
  ]
  const may = await Promise.all(all.map((place) => context.may(place.right, {})))
  const own = all.filter((_, i) => may[i])
  const inOrder = (a: Place, b: Place) =>
    groups.indexOf(a.group ?? '') - groups.indexOf(b.group ?? '') || (a.position ?? 0) - (b.position ?? 0)
  const dueOn = ({ href }: Place) => due.filter((item) => item.href.split('?')[0] === href)
  const pagesOf = ({ name }: Place) =>
    own
      .filter((page) => page.of === name)
      .sort(inOrder)
      .map((page) => ({
        name: page.name,
        href: page.href,
        group: page.group ?? '',
        due: dueOn(page).reduce((sum, item) => sum + (item.count ?? 1), 0),
      }))
  return {
    places: own
      .filter((place) => place.of === undefined && place.position !== undefined)
      .sort(inOrder)
      .map((place) => {
        const pages = pagesOf(place)
        return {
          name: place.name,
          href: pages[0]?.href ?? place.href,
          // The beginnings of all addresses that belong to it.
          also: [place.href, ...(place.also ?? [])],
          // One page is the place itself.
          pages: pages.length > 1 ? pages : [],
        }
      }),
    acts: own
      .filter((place) => place.of !== undefined || place.position === undefined)
      .map(({ name, href, of = '' }) => ({ name, href, of })),
  }
}

/** What stands around every page: school, year line, rail, own classes, and how much is due. */
const frame = defineQuery({
  input: z.object({ date: civilDate.optional() }),
  right: everyone,
  topics: dueTopics,
  run: async (context, { date: asked }) => {
    const { db, actor, today, now } = context
    const date = asked ?? today
    const staff = hasRole(actor, ...staffRoles)
    const [year, classes, due, rounds, work] = await Promise.all([
      loadYear(db, date),
      staff ? ownClasses(context, date) : [],
      staff ? dueItems(context, today) : [],
      staff
        ? gather(context, db.selectFrom('reportRound').select(['yearId', 'name', 'dueOn']).orderBy('dueOn'))
        : [],
      staff ? ownWork(context) : [],
    ])
    const places = await ownPlaces(context, due)
    return {
      actor: { accountId: actor.accountId, name: actor.name, username: actor.username, roles: actor.roles },
      severalSchools: actor.severalSchools,
      deviceKey: deviceKeyOf(actor.accountId),
      schoolId: actor.schoolId,
      schoolName: actor.schoolName,
      year,
      term: year && termShownOn(year, date),
      today,
      date,
      now: now.toISOString(),
      timeZone: actor.timeZone,
      demo: clockIsSet(),
      classes,
      dueCount: due.length,
      work,
      flags: rounds.filter((r) => r.yearId === year?.id).map((r) => ({ name: r.name, date: r.dueOn })),
      ...places,
    }
  },
})

/** What stands around every page. */
export const shell = defineDomain({
  name: 'shell',
  tables: [],
  reads: ['year', 'reports', 'timetable', 'work'],
  queries: { frame },
  commands: {},
})
