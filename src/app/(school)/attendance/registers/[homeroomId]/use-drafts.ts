import { useCallback, useLayoutEffect, useRef, useState } from 'react'
import { readLateness } from '@/core/attendance/arrival'
import type { Drafting } from './register-table'
import type { useRegister } from './use-register'

/** The note or the minutes that are being written beside a mark. */
export function useDrafts(
  r: ReturnType<typeof useRegister>,
  {
    nameOf,
    warn,
    onBack,
  }: {
    nameOf: (studentId: string) => string
    warn: (words: string) => void
    /** The keys go back to the table. */
    onBack: () => void
  },
) {
  const { register, recorded } = r
  const [drafting, setDrafting] = useState<Drafting>()

  /** What is being written beside a mark is saved when its field is left, or the page is. */
  function endDraft() {
    if (!drafting) return
    const { studentId, field, text } = drafting
    setDrafting(undefined)
    if (field === 'note') return r.change(studentId, { note: text.trim() || null })
    const late = readLateness(text, register.starts)
    if ('minutes' in late) return r.change(studentId, { minutesLate: late.minutes })
    recorded?.cancel({ studentId })
    warn(`${nameOf(studentId)}: ${late.problem} The minutes were not changed.`)
  }
  // Rows are drawn again only when they change, so they hold on to handlers that always reach the newest state.
  const latest = useRef({ drafting, endDraft, onBack })
  useLayoutEffect(() => {
    latest.current = { drafting, endDraft, onBack }
  })
  const onDraft = useCallback(
    (draft: Drafting) => {
      recorded?.begin({ studentId: draft.studentId })
      setDrafting(draft)
    },
    [recorded],
  )
  const onEndDraft = useCallback(
    ({ cancel, back }: { cancel: boolean; back: boolean }) => {
      const now = latest.current.drafting
      if (cancel && now) {
        recorded?.cancel({ studentId: now.studentId })
        setDrafting(undefined)
        latest.current.drafting = undefined
      } else if (now) latest.current.endDraft()
      if (back) latest.current.onBack()
    },
    [recorded],
  )
  return { drafting, endDraft, onDraft, onEndDraft }
}
