'use client'
import { useEffect, useState } from 'react'
import { useClock } from './clock'
import { useOutboxState } from './saving'

/** Says in words what is saved and what is not. */
export function SavedState() {
  const { waiting, trouble, savedAt } = useOutboxState()
  const clock = useClock()
  const [slow, setSlow] = useState(false)
  const busy = waiting.length > 0
  useEffect(() => {
    if (!busy) {
      setSlow(false)
      return
    }
    const timer = setTimeout(() => setSlow(true), 300)
    return () => clearTimeout(timer)
  }, [busy])
  const changes = waiting.length === 1 ? '1 change' : `${waiting.length} changes`
  return (
    <div role="status" className="text-right text-[13px]" data-saved={busy ? 'no' : 'yes'}>
      {trouble !== 'none' && busy ? (
        <details className="relative">
          <summary className="cursor-pointer font-bold text-port">
            Not saved: {changes}.{' '}
            {trouble === 'unreachable' ? 'Kept here, sent when Kedge is back.' : 'Sign in to save.'}
          </summary>
          <ul className="absolute right-0 z-10 mt-1 max-h-60 w-80 overflow-auto border border-rule bg-panel p-3 text-left">
            {waiting.map((edit) => (
              <li key={edit.id}>{edit.label}</li>
            ))}
          </ul>
        </details>
      ) : busy && slow ? (
        <span className="text-muted">Saving {changes}</span>
      ) : savedAt !== undefined ? (
        <span className="text-muted">Saved {clock.time(savedAt)}</span>
      ) : (
        <span className="text-muted">Saved as you type</span>
      )}
    </div>
  )
}
