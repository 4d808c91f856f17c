'use client'
import { useState } from 'react'
import { sendCommand } from '@/screen/server'
import { Button } from '@/ui/button'

/** Sends a mail to whoever asks, to see whether mail arrives. */
export function TestMail() {
  const [told, setTold] = useState('')
  const [busy, setBusy] = useState(false)
  async function send() {
    setBusy(true)
    const result = await sendCommand('mail.sendTest', {})
    setBusy(false)
    setTold(
      result.ok
        ? `Kedge is sending a test mail to ${result.value.email}. If it cannot be sent, it stays listed here with the reason.`
        : result.failure.message,
    )
  }
  return (
    <div className="mb-4 flex flex-wrap items-center gap-4">
      <Button kind="plain" busy={busy} onClick={() => void send()}>
        Send a test mail to me
      </Button>
      <p role="status">{told}</p>
    </div>
  )
}
