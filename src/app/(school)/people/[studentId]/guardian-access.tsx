'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { useDialogAct } from '@/screen/form/dialog-act'
import { sendCommand } from '@/screen/server'

/** With which account a guardian reads in Kedge, and the act that ends it. */
export function GuardianAccess({
  studentId,
  guardianId,
  name,
  signsInAs,
  alsoOf,
  onEnded,
}: {
  studentId: string
  guardianId: string
  name: string
  signsInAs: string
  alsoOf: string | null
  onEnded: (words: string) => void
}) {
  const [asking, setAsking] = useState(false)
  const act = useDialogAct(
    (key) => sendCommand('people.endGuardianAccess', { studentId, guardianId }, key),
    () => {
      setAsking(false)
      onEnded(`${name} no longer has access to Kedge.`)
    },
  )
  return (
    <span className="block text-muted">
      Has access, signs in as {signsInAs}.{' '}
      <button type="button" className="link" onClick={() => setAsking(true)}>
        End access<span className="sr-only"> of {name}</span>
      </button>
      {asking && (
        <Dialog title={`End the access of ${name}`} onClose={() => setAsking(false)}>
          <p className="mb-3">
            {signsInAs} is signed out and can no longer read anything in Kedge as {name}
            {alsoOf && `, also not about ${alsoOf}`}. The guardian’s record and mails already sent stay. To
            give access again, send an invitation.
          </p>
          {act.problem && <Problem>{act.problem}</Problem>}
          <div className="flex gap-3">
            <Button busy={act.busy} onClick={() => void act.run()}>
              End access
            </Button>
            <Button kind="plain" onClick={() => setAsking(false)}>
              Cancel
            </Button>
          </div>
        </Dialog>
      )}
    </span>
  )
}
