'use client'
import { useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { Button, buttonLooks } from '@/ui/button'
import { Problem } from '@/ui/field'
import { newKey, sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'

/** A secret of 256 bits, as it stands in an address. */
function newToken(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(32))
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '')
}

/** The year for calendar programs: as a file, and under a secret address that stays up to date. */
export function CalendarFeed({ date, year }: { date: string; year: QueryOutput<'year.calendar'>['year'] }) {
  const { answer } = useAnswer('year.feed', {})
  const [made, setMade] = useState<string>()
  const [sent, setSent] = useState<{ token: string; key: string }>()
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  async function make() {
    const next = sent ?? { token: newToken(), key: newKey() }
    setSent(next)
    setBusy(true)
    setProblem(undefined)
    const result = await sendCommand('year.setFeed', { token: next.token }, next.key)
    setBusy(false)
    if (!result.ok) return setProblem(result.failure.message)
    setSent(undefined)
    setMade(`${window.location.origin}/api/feed/${next.token}`)
  }
  const there = made !== undefined || answer?.there
  return (
    <section className="mt-8 max-w-3xl no-print">
      <h2 className="mb-1">Calendar</h2>
      <p className="mb-3">
        Terms and days without school for your calendar program. An address stays up to date; whoever has it
        can read the calendar, so keep it to yourself.
      </p>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap items-center gap-3">
        <a className={buttonLooks('plain')} href={`/api/calendar?date=${date}`} download>
          Download {year?.name} as iCalendar
        </a>
        <Button kind="plain" busy={busy} onClick={() => void make()}>
          {there ? 'Replace the calendar address' : 'Create a calendar address'}
        </Button>
      </div>
      <div role="status">
        {made ? (
          <p className="mt-3">
            Copy this address now; it is not shown again:
            <code className="mt-1 block break-all border border-line bg-panel px-2 py-1" data-testid="feed">
              {made}
            </code>
          </p>
        ) : (
          answer?.there && (
            <p className="mt-2 text-muted">
              You have an address. If you replace it, the old one stops working.
            </p>
          )
        )}
      </div>
    </section>
  )
}
