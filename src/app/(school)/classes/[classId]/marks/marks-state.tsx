'use client'
import { useState, type ReactNode } from 'react'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import { useClock } from '@/screen/clock'
import { MarksStateMark } from '@/app/(school)/reports/marks-state'
import type { GradebookAnswer } from './book'

const PeriodsDialog = later(() => import('./periods-dialog').then((m) => m.PeriodsDialog))

/** How far the marks of the shown term are, who moved them there, and the way to confirm or close them. */
export function MarksStateLine({
  classId,
  gradebook,
  refresh,
  onChanged,
  children,
}: {
  classId: string
  gradebook: GradebookAnswer
  refresh: () => Promise<unknown>
  onChanged: () => void
  /** What else can be done beside it. */
  children?: ReactNode
}) {
  const [open, setOpen] = useState(false)
  const { moment } = useClock()
  const { periods, term, mayEdit, mayClose, mayReopen } = gradebook
  const own = periods.find((p) => p.termId === term.id && p.periodId === null)
  if (!own) return null
  const by = own.changedBy && own.changedAt ? `${own.changedBy}, ${moment(own.changedAt)}` : undefined
  return (
    <p className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
      <MarksStateMark state={own.state} />
      {by && <span className="text-muted">{by}</span>}
      {own.state === 'closed' && (
        <span className="text-muted">Scores, rules and columns are locked until they are reopened.</span>
      )}
      {own.state === 'confirmed' && own.reason && <span className="text-muted">Reopened: {own.reason}</span>}
      {(mayEdit || mayClose || mayReopen) && (
        <Button kind="quiet" className="no-print" onClick={() => setOpen(true)}>
          {own.state === 'open' ? 'Confirm marks' : 'Confirmed marks'}
        </Button>
      )}
      {children}
      {open && (
        <PeriodsDialog
          classId={classId}
          gradebook={gradebook}
          refresh={refresh}
          onClose={() => {
            setOpen(false)
            onChanged()
          }}
        />
      )}
    </p>
  )
}
