'use client'
import type { ReactNode } from 'react'
import { Button } from '@/ui/button'

/** What could not be saved, above a page that is longer than the window: it stays in sight until it is answered. */
export function NoticesInView({ children }: { children: ReactNode }) {
  return (
    <div className="sticky top-(--mast) z-10 max-h-[40vh] overflow-y-auto empty:hidden no-print">
      {children}
    </div>
  )
}

/** Two people changed the same: says both values and lets the person choose; until then the first to save is kept. */
export function ConflictNotice({
  children,
  theirs,
  mine,
  onResolve,
}: {
  children: ReactNode
  /** What is saved, and what was entered here, as the buttons name them; left out where they are too long for a button. */
  theirs?: string
  mine?: string
  onResolve: (keep: 'mine' | 'theirs') => void
}) {
  return (
    <div role="alert" className="hint mb-3 flex flex-wrap items-center gap-3">
      <span>{children}</span>
      <Button kind="plain" onClick={() => onResolve('theirs')}>
        {theirs ? `Keep ${theirs}` : 'Keep their version'}
      </Button>
      <Button kind="plain" onClick={() => onResolve('mine')}>
        {mine ? `Use ${mine}` : 'Use mine'}
      </Button>
    </div>
  )
}

/** A change that a rule of the school or an error of ours stopped: what, why, and what can be done. */
export function NotSavedNotice({
  label,
  message,
  onResolve,
}: {
  label: string
  message: string
  onResolve: (keep: 'mine' | 'theirs') => void
}) {
  return (
    <div role="alert" className="hint mb-3 flex flex-wrap items-center gap-3 border-port">
      <span>
        <span aria-hidden className="text-port">
          ▲{' '}
        </span>
        <strong>{label}</strong> was not saved. {message}
      </span>
      <Button kind="plain" onClick={() => onResolve('mine')}>
        Try again
      </Button>
      <Button kind="plain" onClick={() => onResolve('theirs')}>
        Discard
      </Button>
    </div>
  )
}
