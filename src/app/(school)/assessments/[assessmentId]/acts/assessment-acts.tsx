'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Menu, type MenuItem } from '@/ui/menu'
import { later } from '@/screen/later'
import type { Key } from '@/app/(school)/assessments/[assessmentId]/use-key'

const dialogs = {
  copy: later(() => import('./copy-dialog').then((m) => m.CopyDialog)),
  describe: later(() => import('./describe-dialog').then((m) => m.DescribeDialog)),
  share: later(() => import('./share-dialog').then((m) => m.ShareDialog)),
  give: later(() => import('./give-dialog').then((m) => m.GiveDialog)),
  'hand over': later(() => import('./hand-over-dialog').then((m) => m.HandOverDialog)),
}
type Act = keyof typeof dialogs

/** What is done with an assessment as a whole. */
export function AssessmentActs({ server, onSaved }: { server: Key; onSaved: () => void }) {
  const [open, setOpen] = useState<Act>()
  const rare: readonly (readonly [boolean, string, Act])[] = [
    [server.mayEdit, 'Name, description and tags', 'describe'],
    [server.mayShare, 'Share', 'share'],
    [server.mayGive, 'Give to other classes', 'give'],
    [server.mayHandOver, 'Hand over to a colleague', 'hand over'],
  ]
  const items = rare.flatMap(([may, label, act]): MenuItem[] =>
    may ? [{ label, onSelect: () => setOpen(act) }] : [],
  )
  const Open = open && dialogs[open]
  return (
    <>
      {server.mayCopy && (
        <Button kind="plain" onClick={() => setOpen('copy')}>
          Copy
        </Button>
      )}
      {items.length > 0 && <Menu label="More" items={items} />}
      {Open && (
        <Open
          server={server}
          onClose={(saved) => {
            setOpen(undefined)
            if (saved) onSaved()
          }}
        />
      )}
    </>
  )
}
