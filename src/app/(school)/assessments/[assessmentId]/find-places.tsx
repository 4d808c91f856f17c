'use client'
import { useState } from 'react'
import { proposePlaces } from '@/core/assessment/propose-places'
import { readPdfLines } from '@/ui/open-pdf'
import { Button } from '@/ui/button'
import type { ChangeKey, Question } from './use-key'

/** Looks for the questions on the document by their numbers, and gives a place to those that have none. */
export function FindPlaces({
  address,
  questions,
  onChange,
}: {
  address: string
  questions: readonly Question[]
  onChange: ChangeKey
}) {
  const [busy, setBusy] = useState(false)
  const [said, setSaid] = useState<string>()
  const open = questions.filter((q) => !q.box)
  if (open.length === 0 && !said) return null
  async function find() {
    setBusy(true)
    setSaid(undefined)
    const places = await readPdfLines(address).then(
      (lines) => proposePlaces(lines, questions.length),
      (): undefined => undefined,
    )
    setBusy(false)
    if (!places) return setSaid('The document could not be opened. Reload the page and try again.')
    const found = new Map(
      questions.flatMap((q, i) => {
        const place = places[i]
        return !q.box && place ? [[q.id, place] as const] : []
      }),
    )
    setSaid(
      found.size === 0
        ? 'No numbered questions were found in the text of the document. Draw their places.'
        : `Places of ${found.size} of ${open.length} questions were found. Look them over; each can be drawn anew.`,
    )
    if (found.size > 0)
      onChange((now) => now.map((q) => ({ ...q, ...found.get(q.id) }) as Question), `${found.size} places`)
  }
  return (
    <div className="mt-2 text-[13px]">
      {open.length > 0 && (
        <Button kind="plain" busy={busy} onClick={() => void find()}>
          Find the questions on the document
        </Button>
      )}
      {said && (
        <p role="status" className="mt-1 text-muted">
          {said}
        </p>
      )}
    </div>
  )
}
