'use client'
import { useState, type ReactNode } from 'react'
import { agoInWords } from '@/core/calendar/ago'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import type { CallResult } from './server'

type SignInSession = QueryOutput<'account.sessions'>[number]

/** Where an account is signed in, with a button that ends each session. */
export function SessionsDialog({
  title,
  description,
  sessions,
  problem: unread,
  end,
  children,
  onClose,
}: {
  title: string
  description: string
  /** Undefined while they are asked for. */
  sessions: readonly SignInSession[] | undefined
  /** Why they could not be asked for. */
  problem: string | undefined
  end: (sessionId: string) => Promise<CallResult<unknown>>
  children?: ReactNode
  onClose: () => void
}) {
  const [ended, setEnded] = useState<readonly string[]>([])
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  async function endOne(session: SignInSession) {
    setBusy(session.id)
    const result = await end(session.id)
    setBusy(undefined)
    setProblem(result.ok ? undefined : result.failure.message)
    if (result.ok) setEnded((before) => [...before, session.id])
  }
  const left = sessions?.filter(({ id }) => !ended.includes(id))
  return (
    <Dialog title={title} description={description} onClose={onClose}>
      {(problem ?? unread) && <Problem>{problem ?? unread}</Problem>}
      {!left && !unread && <p>Loading</p>}
      {left?.length === 0 && <p className="text-muted">Nowhere at the moment.</p>}
      <ul className="divide-y divide-rule border-y border-rule">
        {left?.map((session) => (
          <li key={session.id} className="flex items-center gap-4 py-2">
            <div className="min-w-0 flex-1">
              <p>
                {session.browser}
                {session.here && <strong>, this browser</strong>}
                {session.sharedComputer && ', shared computer'}
              </p>
              <p className="text-[13px] text-muted">
                Signed in {agoInWords(session.minutes)}, last used {agoInWords(session.idleMinutes)}
              </p>
            </div>
            {!session.here && (
              <Button
                kind="plain"
                busy={busy === session.id}
                aria-label={`Sign out ${session.browser}`}
                onClick={() => void endOne(session)}
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      <p role="status" className="sr-only">
        {ended.length > 0 && 'Signed out.'}
      </p>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button onClick={onClose}>Close</Button>
        {children}
      </div>
    </Dialog>
  )
}
