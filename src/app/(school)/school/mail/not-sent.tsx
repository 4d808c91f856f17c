'use client'
import { useState } from 'react'
import { limits } from '@/core/limits'
import { ShownAtMost } from '@/screen/shown-at-most'
import { sendCommand } from '@/screen/server'
import { useLive } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'

/** Mails on their way and those that could not be sent, with the reason and a way to try again. */
export function NotSent({ initial }: { initial: QueryOutput<'mail.notSent'> }) {
  const [mails, refresh] = useLive('mail.notSent', {}, initial)
  const [problem, setProblem] = useState<string>()
  async function sendAgain(mailId: string) {
    const result = await sendCommand('mail.sendAgain', { mailId })
    setProblem(result.ok ? undefined : result.failure.message)
    void refresh()
  }
  if (mails.length === 0) return <p className="mb-4 text-muted">All mails have been sent.</p>
  return (
    <section className="hint mb-4 grid gap-2">
      <h2>Not sent yet: {mails.length}</h2>
      {problem && <Problem>{problem}</Problem>}
      <ul className="grid gap-1">
        {mails.map((mail) => (
          <li key={mail.id} className="flex flex-wrap items-center gap-3">
            <span>
              {mail.toAddress}, {mail.subject}
              {mail.error && (
                <span className="text-port">
                  : {mail.error};{' '}
                  {mail.state === 'failed' ? 'Kedge has stopped trying' : 'Kedge will try again'}
                </span>
              )}
            </span>
            {(mail.state === 'failed' || mail.error) && (
              <Button kind="plain" onClick={() => void sendAgain(mail.id)}>
                {mail.state === 'failed' ? 'Send again' : 'Send now'}
                <span className="sr-only"> to {mail.toAddress}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
      <ShownAtMost count={mails.length} most={limits.mailsShown} what="mails" />
    </section>
  )
}
