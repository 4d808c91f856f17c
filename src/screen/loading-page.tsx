'use client'
import { usePathname } from 'next/navigation'
import { useSchool } from './school-context'

const rows = Array.from({ length: 12 }, (_, i) => i)

/** The head and the lines of a page that is still being made, in its place. */
export function LoadingPage() {
  const { places } = useSchool()
  const path = usePathname()
  const place = places.find((p) =>
    [p.href, ...p.also].some((href) => path === href || path.startsWith(`${href}/`)),
  )
  return (
    <div className="sheet" data-loading>
      <header className="mb-4">
        <h1>{place?.name ?? 'Kedge'}</h1>
        <p role="status" className="text-muted">
          Loading
        </p>
      </header>
      <div aria-hidden className="border-t border-ink">
        {rows.map((i) => (
          <div key={i} className="h-[31px] border-b border-rule" />
        ))}
      </div>
    </div>
  )
}
