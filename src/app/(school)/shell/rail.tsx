'use client'
import Link from '@/screen/link'
import { usePathname } from 'next/navigation'
import { useSchool } from '@/screen/school-context'

const row =
  'flex items-center justify-between border-l-4 py-[7px] pr-4 pl-[14px] no-underline hover:bg-shoal-light pointer-coarse:min-h-11'
const chosen = 'border-magenta bg-shoal font-bold'

/** The places, then the teacher's own classes. A count only where something is due. */
export function Rail() {
  const { places, classes, dueCount } = useSchool()
  const path = usePathname()
  const isAt = (href: string) => path === href || path.startsWith(`${href}/`)
  const ownHref = (c: { kind: string; id: string }) =>
    c.kind === 'homeroom' ? `/attendance/registers/${c.id}` : `/classes/${c.id}/marks`
  const isOwn = (c: { kind: string; id: string }) =>
    c.kind === 'homeroom' ? isAt(ownHref(c)) : isAt(`/classes/${c.id}`)
  const atOwn = classes.some(isOwn)
  // Going from one class to another keeps the page.
  const atEntries = /^\/classes\/[^/]+\/entries\//.test(path)
  const hrefOf = (c: (typeof classes)[number]) =>
    atEntries && c.roundId ? `/classes/${c.id}/entries/${c.roundId}` : ownHref(c)
  return (
    <nav data-part="rail" aria-label="Places" className="border-r border-rule py-4 max-lg:py-0">
      <ul className="text-[15px]">
        {places.map((place) => {
          const here = !atOwn && [place.href, ...place.also].some(isAt)
          return (
            <li key={place.href}>
              <Link
                href={place.href}
                aria-current={here ? 'page' : undefined}
                className={`${row} ${here ? chosen : 'border-transparent'}`}
              >
                {place.name}
                {place.name === 'Today' && dueCount > 0 && (
                  <span className="pl-2 font-bold text-magenta">
                    {dueCount}
                    <span className="sr-only"> due</span>
                  </span>
                )}
              </Link>
            </li>
          )
        })}
      </ul>
      {classes.length > 0 && (
        <>
          <h2 className="mt-5 mb-1 pl-[18px] text-[12px] text-muted max-lg:hidden">My classes</h2>
          <ul className="text-[13px] max-lg:border-t max-lg:border-rule">
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
