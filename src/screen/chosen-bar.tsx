'use client'
import type { ReactNode } from 'react'
import { Button } from '@/ui/button'

/** What can be done with the rows that are chosen: at the foot of the window, so that no row moves while one chooses. */
export function ChosenBar({
  words,
  onNone,
  children,
}: {
  /** How many of what. */
  words: string
  onNone: () => void
  children?: ReactNode
}) {
  return (
    <div
      role="group"
      aria-label="Acts on those chosen"
      className="fixed bottom-4 left-4 z-20 flex max-w-[calc(100vw-32px)] flex-wrap items-center gap-2 rounded-[3px] border border-ink bg-panel px-3 py-2 shadow-lg lg:left-[206px] no-print"
    >
      <strong>{words} chosen</strong>
      {children}
      <Button kind="quiet" onClick={onNone}>
        Choose none
      </Button>
    </div>
  )
}
