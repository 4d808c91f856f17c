'use client'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'

/** Stops a page whose person is no longer the one signed in at this browser. */
export function OtherAccount({ name, unsaved }: { name: string; unsaved: number }) {
  return (
    <Dialog
      title="Signed in as someone else"
      covers
      description={`This page belongs to ${name}, but someone else has signed in, or another school was chosen, in this browser. Nothing more is saved from this page.`}
    >
      {unsaved > 0 && (
        <p className="hint mb-4">
          {unsaved === 1 ? '1 unsaved change stays' : `${unsaved} unsaved changes stay`} on this device until{' '}
          {name} signs in again.
        </p>
      )}
      <Button autoFocus onClick={() => window.location.assign('/')}>
        Continue as the person signed in now
      </Button>
    </Dialog>
  )
}
