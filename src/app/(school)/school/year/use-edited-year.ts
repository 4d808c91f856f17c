import { useEffect, useRef, useState } from 'react'
import { useGo } from '@/screen/go'
import { sendCommand } from '@/screen/server'
import { useUndoable } from '@/screen/undoable'
import type { Calendar, Days } from './year'

/** What is open in a dialog. */
export interface Opened {
  readonly kind: 'closure' | 'term' | 'period' | 'year'
  readonly id?: string
  /** Days that were chosen on the drawing or typed into a table. */
  readonly days?: Days
}

/** What the drawing calls a part: its kind and its id. */
export const openedBy = (key: string, days?: Days): Opened => {
  const [kind = 'closure', id] = key.split(' ')
  return { kind: kind as 'closure' | 'term' | 'period', id, days }
}

/** What is being edited of a year: one dialog at a time, or days typed into a table. */
export function useEditedYear(mayChange: boolean, refresh: () => Promise<void>) {
  const go = useGo()
  const undoable = useUndoable(refresh)
  const [edited, setEdited] = useState<Opened>()
  const close = () => setEdited(undefined)
  const changed = (words: string, run: string | undefined) => {
    undoable.done(words, run)
    go.refresh()
    void refresh()
  }
  const saved = (words: string, run: string | undefined) => {
    close()
    changed(words, run)
  }
  const opened = useRef(edited)
  useEffect(() => {
    opened.current = edited
  })
  /** What a table needs to be typed into. */
  const typing = (kind: Opened['kind']) =>
    mayChange
      ? {
          review({ id }: { id: string }, days: Days) {
            if (opened.current) return false
            setEdited({ kind, id, days })
            return true
          },
          saved: changed,
          refresh,
        }
      : undefined
  async function openTerm({ id: termId, name, open, version }: Calendar['terms'][number]) {
    const result = await sendCommand('year.setTermOpen', { termId, expectedVersion: version, open: !open })
    if (result.ok)
      undoable.done(
        open ? `Teachers can read ${name} but not change it.` : `Teachers can change ${name} again.`,
        result.run,
      )
    else undoable.warn(result.failure.message)
    await refresh()
  }
  return { undoable, edited, setEdited, close, saved, typing, openTerm }
}
