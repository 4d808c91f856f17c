'use client'
import { roleWords } from '@/core/people/roles'
import { useSchool } from '@/screen/school-context'

export interface WhoProps {
  readonly onFind: (() => void) | undefined
  readonly onKeys: () => void
}

/** How the button with the name of who is signed in looks, with its menu and before that was fetched. */
export const whoButton = 'size-full px-4 py-3 text-right max-lg:py-1 max-lg:max-w-40'

/** The name of who is signed in, and as what. */
export function WhoWords() {
  const { actor } = useSchool()
  return (
    <>
      <span className="block truncate font-bold">{actor.name}</span>
      <span className="block truncate text-[13px] text-muted">
        {roleWords(actor.roles)} <span aria-hidden>▾</span>
      </span>
    </>
  )
}
