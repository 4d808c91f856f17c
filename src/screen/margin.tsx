'use client'
import { useEffect, useState, type ReactNode } from 'react'
import { Button } from '@/ui/button'

/** Whether the margin of a page is open, where it does not stand beside the work. */
export function useMargin() {
  const [isOpen, setOpen] = useState(false)
  useEffect(() => {
    if (!isOpen) return
    const onKeyDown = (event: KeyboardEvent) => event.key === 'Escape' && setOpen(false)
    window.addEventListener('keydown', onKeyDown)
    return () => window.removeEventListener('keydown', onKeyDown)
  }, [isOpen])
  return { isOpen, setOpen }
}

/**
 * What explains the work, beside it. On a narrow screen it opens over the lower part of the page when it is asked for:
 * with the button that stands there, or from the work itself.
 */
export function Margin({
  label,
  opens,
  of: { isOpen, setOpen },
  children,
}: {
  label: string
  /** What the button says that opens it. */
  opens: string
  of: ReturnType<typeof useMargin>
  children: ReactNode
}) {
  return (
    <>
      {!isOpen && (
        <div className="sticky bottom-3 z-10 justify-self-end pr-3 lg:hidden no-print">
          <Button kind="plain" className="shadow-lg" onClick={() => setOpen(true)}>
            {opens}
          </Button>
        </div>
      )}
      <aside aria-label={label} data-open={isOpen || undefined}>
        <div className="mb-2 flex justify-end lg:hidden">
          <Button kind="plain" onClick={() => setOpen(false)}>
            Close
          </Button>
        </div>
        {children}
      </aside>
    </>
  )
}
