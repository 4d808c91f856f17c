'use client'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import type { Edit } from '@/ui/saving/edit'
import Link from './link'
import { useOutboxState, useSaving } from './saving'

function Where({ edit, onClose }: { edit: Edit; onClose: () => void }) {
  return (
    <span>
      <strong>{edit.label}</strong>
      <br />
      <Link className="link text-[13px]" href={edit.madeOn.href} onClick={onClose}>
        {edit.madeOn.name}
      </Link>
    </span>
  )
}

/** Every change that is not saved: what, where, why, and what can be done. */
export function NotSaved({ onClose }: { onClose: () => void }) {
  const { outbox } = useSaving()
  const { waiting, rejected } = useOutboxState()
  return (
    <Dialog
      title="Changes that are not saved"
      description="They are kept on this device until they are saved or discarded."
      onClose={onClose}
      wide
    >
      {rejected.length > 0 && (
        <ul className="mb-4 grid">
          {rejected.map(({ edit, reason, message }) => (
            <li key={edit.id} className="flex flex-wrap items-center gap-3 border-t border-rule py-2">
              <span className="flex-1 text-left">
                <Where edit={edit} onClose={onClose} />
                <span className="block text-port">{message}</span>
              </span>
              <Button kind="plain" onClick={() => outbox?.tryAgain(edit.id)}>
                {reason === 'conflict' ? 'Use mine' : 'Try again'}
                <span className="sr-only">: {edit.label}</span>
              </Button>
              <Button kind="plain" onClick={() => outbox?.discard(edit.id)}>
                Discard<span className="sr-only">: {edit.label}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      {waiting.length > 0 && (
        <>
          <h3 className="text-left">Waiting to be sent</h3>
          <ul className="mb-4 max-h-60 overflow-auto">
            {waiting.map((edit) => (
              <li key={edit.id} className="border-t border-rule py-1 text-left">
                <Where edit={edit} onClose={onClose} />
              </li>
            ))}
          </ul>
        </>
      )}
      {waiting.length + rejected.length === 0 && <p className="mb-4 text-left">All changes are saved.</p>}
      <div className="flex gap-3">
        {waiting.length > 0 && <Button onClick={() => outbox?.resume()}>Send now</Button>}
        <Button kind="plain" onClick={onClose}>
          Close
        </Button>
      </div>
    </Dialog>
  )
}
