'use client'
import { useState } from 'react'
import { newKey, sendCommand } from '@/screen/server'

/** Sends a new invitation to a guardian who has no account yet. */
export function InviteAgain({
  studentId,
  guardianId,
  name,
}: {
  studentId: string
  guardianId: string
  name: string
}) {
  const [answer, setAnswer] = useState<{ text: string; wrong: boolean }>()
  const [key] = useState(newKey)
  async function send() {
    const result = await sendCommand('people.inviteAgain', { studentId, guardianId }, key)
    setAnswer(
      result.ok
        ? { text: `An invitation will be emailed to ${result.value.email}.`, wrong: false }
        : { text: result.failure.message, wrong: true },
    )
  }
  if (answer)
    return (
      <span
        role={answer.wrong ? 'alert' : 'status'}
        className={answer.wrong ? 'block text-port' : 'block text-muted'}
      >
        {answer.text}
      </span>
    )
  return (
    <span className="block text-muted">
      No account yet.{' '}
      <button type="button" className="link" onClick={() => void send()}>
        Send an invitation<span className="sr-only"> to {name}</span>
      </button>
    </span>
  )
}
