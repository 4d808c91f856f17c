'use client'
import { useState } from 'react'
import type { CommandInput } from '@/server/registry'
import { Button } from '@/ui/button'
import { useClock } from '@/screen/clock'
import { newKey, sendCommand } from '@/screen/server'

/** Reminds the teacher of a register; says who was, and when. */
export function RemindButton({
  of,
  words,
  reminded,
  onDone,
}: {
  of: CommandInput<'attendance.remind'>
  /** Which register, for those who do not see the row. */
  words: string
  reminded: { readonly by: string; readonly at: string } | undefined
  onDone: (said: { words: string; wrong?: boolean }) => void
}) {
  const [busy, setBusy] = useState(false)
  const { moment } = useClock()
  async function remind() {
    setBusy(true)
    const result = await sendCommand('attendance.remind', of, newKey())
    setBusy(false)
    if (!result.ok) return onDone({ words: result.failure.message, wrong: true })
    const { written, withoutAddress } = result.value
    onDone({
      words: [
        written.length > 0 && `${written.join(' and ')} was written to about ${words}.`,
        withoutAddress.length > 0 &&
          `${withoutAddress.join(' and ')} has no e-mail address; Today shows that the register is asked for.`,
      ]
        .filter(Boolean)
        .join(' '),
    })
  }
  return (
    <>
      <Button kind="quiet" busy={busy} onClick={() => void remind()}>
        {reminded ? 'Remind again' : 'Remind'}
        <span className="sr-only"> about {words}</span>
      </Button>
      {reminded && (
        <span className="block text-[13px] text-muted">
          reminded {moment(reminded.at)} by {reminded.by}
        </span>
      )}
    </>
  )
}
