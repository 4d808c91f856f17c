'use client'
import { useState } from 'react'
import { hasSome, staffRoles } from '@/core/people/roles'
import { useSchool } from '@/screen/school-context'
import { sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem, Tick } from '@/ui/field'

/** The address for signing in and for links, with what confirms that it is one's own. */
function AccountAddress({ own }: { own: NonNullable<QueryOutput<'account.address'>> }) {
  const [sent, setSent] = useState(false)
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  async function send() {
    setBusy(true)
    const result = await sendCommand('account.confirmOwnAddress', {})
    setBusy(false)
    setProblem(result.ok ? undefined : result.failure.message)
    setSent(result.ok)
  }
  return (
    <section className="mb-4">
      <p className="font-bold break-all">{own.email}</p>
      {own.confirmed ? (
        <p className="text-muted">Confirmed. Links to choose a new password are sent here.</p>
      ) : (
        <>
          <p className="mb-2 text-muted">
            Not confirmed yet. When you work at several schools, links to choose a new password are sent only
            to a confirmed address.
          </p>
          {sent ? (
            <p role="status">A link will be emailed to this address. It works for one day.</p>
          ) : (
            <Button kind="plain" busy={busy} onClick={() => void send()}>
              Send a link to confirm it
            </Button>
          )}
        </>
      )}
      {problem && <Problem>{problem}</Problem>}
    </section>
  )
}

/** Whether guardians may see the address; only its person can agree to that. Saved at once. */
function SharedAddress({ own }: { own: QueryOutput<'staff.ownAddress'> }) {
  const [shared, setShared] = useState(own.shared)
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  async function change(wanted: boolean) {
    if (busy) return
    setBusy(true)
    setShared(wanted)
    const result = await sendCommand('staff.shareAddress', { shared: wanted })
    setProblem(result.ok ? undefined : result.failure.message)
    if (!result.ok) setShared(!wanted)
    setBusy(false)
  }
  return (
    <section className="mb-4 border-t border-rule pt-3">
      <Tick
        label={`Guardians of the students in my homeroom may see ${own.email}`}
        checked={shared}
        onChange={(e) => void change(e.target.checked)}
      />
      {problem && <Problem>{problem}</Problem>}
    </section>
  )
}

function StaffPart() {
  const { answer: own, problem } = useAnswer('staff.ownAddress', {})
  if (problem) return <Problem>{problem}</Problem>
  return own?.email ? <SharedAddress own={own} /> : null
}

/** One's own e-mail address: whether it is confirmed, and for staff whether guardians see it. */
export function OwnAddress({ onClose }: { onClose: () => void }) {
  const { actor } = useSchool()
  const { answer: own, problem } = useAnswer('account.address', {})
  return (
    <Dialog title="Your e-mail address" onClose={onClose}>
      {problem && <Problem>{problem}</Problem>}
      {own && <AccountAddress own={own} />}
      {own === null && (
        <p className="mb-4">Your account has no e-mail address. An administrator can enter one.</p>
      )}
      {own === undefined && !problem && <p className="mb-4">Loading</p>}
      {own !== undefined && hasSome(actor.roles, ...staffRoles) && <StaffPart />}
      <Button onClick={onClose}>Close</Button>
    </Dialog>
  )
}
