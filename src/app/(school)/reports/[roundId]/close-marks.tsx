'use client'
import { useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { useDialogAct } from '@/screen/form/dialog-act'
import { useAtOpening } from '@/screen/form/use-opened'
import { sendCommand } from '@/screen/server'

type Round = QueryOutput<'reports.round'>

/** Closes the marks of all classes of a round that have confirmed them, after saying which are left. */
export function CloseMarks({ round, onDone }: { round: Round; onDone: () => void }) {
  const [open, setOpen] = useState(false)
  const confirmed = round.classes.filter((c) => c.marks === 'confirmed')
  if (confirmed.length === 0 && !open) return null
  return (
    <>
      <Button kind="quiet" onClick={() => setOpen(true)}>
        Close marks of {confirmed.length === 1 ? '1 class' : `${confirmed.length} classes`}
      </Button>
      {open && (
        <Closing
          round={round}
          onClose={(done) => {
            setOpen(false)
            if (done) onDone()
          }}
        />
      )}
    </>
  )
}

function Closing({ round, onClose }: { round: Round; onClose: (done: boolean) => void }) {
  // As they were when this was opened: a class that is confirmed or taken back meanwhile is refused, not closed unseen.
  const { classes, termId } = useAtOpening(round)
  const confirmed = classes.filter((c) => c.marks === 'confirmed')
  const left = classes.filter((c) => c.marks === 'open')
  const closing = useDialogAct(
    (key) =>
      sendCommand(
        'marks.closeMarks',
        {
          period: { termId, periodId: null },
          targets: confirmed.map((c) => ({ classId: c.id, expectedVersion: c.marksVersion })),
        },
        key,
      ),
    () => onClose(true),
  )
  return (
    <Dialog
      title="Close marks"
      description="Scores, rules and columns of the term can no longer be changed in these classes. The head or the office can reopen them with a reason."
      onClose={() => onClose(false)}
    >
      {closing.problem && <Problem>{closing.problem}</Problem>}
      <p className="mb-2">
        <strong>Closed now:</strong> {confirmed.map((c) => c.name).join(', ')}.
      </p>
      {left.length > 0 && (
        <p className="mb-4">
          <strong>Not confirmed by their teachers yet:</strong> {left.map((c) => c.name).join(', ')}.
        </p>
      )}
      <p className="mt-2 flex gap-3">
        <Button busy={closing.busy} onClick={() => void closing.run()}>
          Close marks
        </Button>
        <Button kind="plain" onClick={() => onClose(false)}>
          Cancel
        </Button>
      </p>
    </Dialog>
  )
}
