'use client'
import type { ReactNode } from 'react'
import { Button } from '@/ui/button'

/** Two people changed the same thing: says both values and lets the person choose; until then the first to save stands. */
export function ConflictNotice({
  children,
  theirs = 'theirs',
  mine = 'mine',
  onResolve,
}: {
  children: ReactNode
  /** What stands, as the button names it. */
  theirs?: string
  mine?: string
  onResolve: (keep: 'mine' | 'theirs') => void
}) {
  return (
    <div role="alert" className="hint mb-3 flex flex-wrap items-center gap-3">
      <span>{children}</span>
      <Button kind="plain" onClick={() => onResolve('theirs')}>
        Keep {theirs}
      </Button>
      <Button kind="plain" onClick={() => onResolve('mine')}>
        Put {mine}
      </Button>
    </div>
  )
}
