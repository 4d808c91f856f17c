'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import type { Key } from './use-key'

const CopyDialog = later(() => import('./copy-dialog').then((m) => m.CopyDialog))

/** Copies an assessment for another day. */
export function CopyButton({ server }: { server: Key }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button kind="plain" onClick={() => setOpen(true)}>
        Copy
      </Button>
      {open && <CopyDialog server={server} onClose={() => setOpen(false)} />}
    </>
  )
}
