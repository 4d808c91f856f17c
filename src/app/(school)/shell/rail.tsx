'use client'
import { usePathname } from 'next/navigation'
import Link from '@/screen/link'
import { useSchool } from '@/screen/school-context'
import type { QueryOutput } from '@/server/registry'

type Place = QueryOutput<'shell.frame'>['places'][number]
type Page = Place['pages'][number]

const row =
  'flex items-center justify-between border-l-4 py-[7px] pr-4 pl-[14px] no-underline hover:bg-shoal-light pointer-coarse:min-h-11'
const chosen = 'border-magenta bg-shoal font-bold'

/** Whether an address is a page's own or one of its parts. */
const isAt = (path: string, href: string) => path === href || path.startsWith(`${href}/`)

/** The page that an address belongs to: of several whose address it begins with, the longest. */
const pageAt = (pages: readonly Page[], path: string): Page | undefined =>
  pages.filter(({ href }) => isAt(path, href)).sort((a, b) => b.href.length - a.href.length)[0]

function Due({ count }: { count: number }) {
  if (count === 0) return null
  return (
    <span className="pl-2 font-bold text-magenta">
      {count}
      <span className="sr-only"> due</span>
    </span>
  )
}

/** The pages of the place one is in, some places' under headings. */
function Pages({ place, path }: { place: Place; path: string }) {
  const here = pageAt(place.pages, path)
  return (
    <ul aria-label={`Pages of ${place.name}`} className="mb-2 ml-[14px] border-l border-rule text-[13px]">
      {place.pages.map((page, i) => {
        const isHere = page === here
        const begins = page.group !== '' && page.group !== place.pages[i - 1]?.group
        return (
          <li key={page.href}>
            {begins && <span className="mt-2 block pl-[14px] text-[12px] text-muted">{page.group}</span>}
            <Link
              href={page.href}
              aria-current={isHere ? 'page' : undefined}
              className={`-ml-px flex min-h-[26px] items-center justify-between border-l-2 py-[2px] pr-4 pl-[13px] no-underline hover:bg-shoal-light pointer-coarse:min-h-11 ${isHere ? 'border-magenta bg-shoal-light font-bold' : 'border-transparent'}`}
            >
              {page.name}
              <Due count={page.due} />
            </Link>
          </li>
        )
      })}
    </ul>
  )
}

/** The name of the place, page or class that an address belongs to. */
export function usePlaceName(): string {
  const { places, classes } = useSchool()
  const path = usePathname()
  const own = classes.find((c) =>
    c.kind === 'homeroom' ? isAt(path, `/attendance/registers/${c.id}`) : isAt(path, `/classes/${c.id}`),
  )
  const place = places.find(({ also }) => also.some((href) => isAt(path, href)))
  return own?.name ?? place?.name ?? 'Places'
}

/** The places with the pages of the present one, then the teacher's own classes. A count only where something is due. */
export function Rail({
  open,
}: {
  /** On a narrow screen it is a panel that opens over the page. */ open: boolean
}) {
  const { places, classes, dueCount, schoolName } = useSchool()
  const path = usePathname()
  const ownHref = (c: { kind: string; id: string }) =>
    c.kind === 'homeroom' ? `/attendance/registers/${c.id}` : `/classes/${c.id}/marks`
  const isOwn = (c: { kind: string; id: string }) =>
    c.kind === 'homeroom' ? isAt(path, ownHref(c)) : isAt(path, `/classes/${c.id}`)
  const atOwn = classes.some(isOwn)
  // Going from one class to another keeps the page.
  const atEntries = /^\/classes\/[^/]+\/entries\//.test(path)
  const hrefOf = (c: (typeof classes)[number]) =>
    atEntries && c.roundId ? `/classes/${c.id}/entries/${c.roundId}` : ownHref(c)
  return (
    <nav
      id="places"
      data-part="rail"
      data-open={open || undefined}
      aria-label="Places"
      className="border-r border-rule py-4 max-lg:not-data-open:hidden"
    >
      <p className="mb-2 px-[18px] text-[13px] text-muted lg:hidden">{schoolName}</p>
      <ul className="text-[15px]">
        {places.map((place) => {
          const here = !atOwn && place.also.some((href) => isAt(path, href))
          const opens = here && place.pages.length > 0
          return (
            <li key={place.name}>
              <Link
                href={place.href}
                aria-current={here ? (opens ? 'true' : 'page') : undefined}
                className={`${row} ${!here ? 'border-transparent' : opens ? 'border-transparent font-bold' : chosen}`}
              >
                {place.name}
                {place.name === 'Today' && <Due count={dueCount} />}
              </Link>
              {opens && <Pages place={place} path={path} />}
            </li>
          )
        })}
      </ul>
      {classes.length > 0 && (
        <>
          <p id="own-classes" className="mt-5 mb-1 pl-[18px] text-[12px] text-muted">
            My classes
          </p>
          <ul aria-labelledby="own-classes" className="text-[13px]">
            {classes.map((c) => (
              <li key={c.id}>
                <Link
                  href={hrefOf(c)}
                  aria-current={isOwn(c) ? 'page' : undefined}
                  className={`${row} wrap-anywhere ${isOwn(c) ? chosen : 'border-transparent'}`}
                >
                  {c.kind === 'homeroom' ? `${c.name}, homeroom` : c.name}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </nav>
  )
}
