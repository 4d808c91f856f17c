'use client'
import { useState, type KeyboardEvent } from 'react'
import { comparableName } from '@/core/people/names'
import type { RegisterRow } from './use-register'

/** The first student of whom a name begins with what was typed, whatever the accents. */
const find = (rows: readonly Pick<RegisterRow, 'studentId' | 'name'>[], text: string) =>
  rows.find((row) => {
    const name = comparableName(row.name)
    return name.startsWith(text) || name.split(/[ ,-]+/).some((part) => part.startsWith(text))
  })

/**
 * Going to a name by its letters: `,` begins, letters search at once, Enter or Escape ends. Any other key ends it and
 * does what it does.
 * @param next what takes the keys otherwise
 */
export function useNameJump(
  rows: readonly RegisterRow[],
  goTo: (studentId: string) => void,
  next: (event: KeyboardEvent) => void,
) {
  const [seeking, setSeeking] = useState<{ text: string; found: boolean }>()
  function look(text: string) {
    const row = text === '' ? undefined : find(rows, comparableName(text))
    setSeeking({ text, found: text === '' || row !== undefined })
    if (row) goTo(row.studentId)
  }
  function onKeyDown(event: KeyboardEvent) {
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey
    if (seeking === undefined) {
      if (event.key !== ',' || !plain) return next(event)
      event.preventDefault()
      return setSeeking({ text: '', found: true })
    }
    if (plain && (/^[\p{L}'-]$/u.test(event.key) || (event.key === ' ' && seeking.text !== ''))) {
      event.preventDefault()
      return look(seeking.text + event.key)
    }
    if (event.key === 'Backspace') {
      event.preventDefault()
      return look(seeking.text.slice(0, -1))
    }
    if (['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return
    setSeeking(undefined)
    if (event.key === 'Enter' || event.key === 'Escape') return event.preventDefault()
    next(event)
  }
  return { seeking, onKeyDown }
}

/** What has been typed of the name that is looked for. */
export function SeekingName({ seeking }: { seeking: { text: string; found: boolean } | undefined }) {
  return (
    <p role="status" className={seeking ? 'hint sticky top-[72px] z-10 mb-2 w-fit' : 'sr-only'}>
      {seeking && (
        <>
          Go to a name: <strong>{seeking.text}_</strong>
          {!seeking.found && ' No name begins like this.'}
        </>
      )}
    </p>
  )
}
