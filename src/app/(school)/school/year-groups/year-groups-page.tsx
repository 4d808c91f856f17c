'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage } from '@/screen/undoable'
import { NoYear, useStructure, type Structure } from '@/app/(school)/school/structure/use-structure'
import { Homerooms } from './homerooms'

const HomeroomDialog = later(() => import('./homeroom-dialog').then((m) => m.HomeroomDialog))
const CloseHomeroom = later(() => import('./close-homeroom').then((m) => m.CloseHomeroom))
const OrderDialog = later(() =>
  import('@/app/(school)/school/structure/order-dialog').then((m) => m.OrderDialog),
)
const AddYearGroups = later(() => import('./add-year-groups').then((m) => m.AddYearGroups))

type Opened =
  { readonly kind: 'homeroom' | 'close'; readonly id: string } | { readonly kind: 'order' | 'add' }

/** Year groups in their order with their homerooms, homeroom teachers and rooms. */
export function YearGroupsPage({ initial, date, at }: { initial: Structure; date: string; at?: string }) {
  const { s, refresh, undoable, done, onPart, partDialog } = useStructure(initial, date)
  const [dialog, setDialog] = useState<Opened | undefined>(
    s.mayChange && s.yearGroups.length === 0 ? { kind: 'add' } : undefined,
  )
  const close = () => setDialog(undefined)
  const saved = (words: string, run: string | undefined) => {
    close()
    done(words, run)
  }
  const { year } = s
  if (!year) return <NoYear title="Year groups and homerooms" mayChange={s.mayChange} />
  const homeroom = dialog && 'id' in dialog ? s.homerooms.find((h) => h.id === dialog.id) : undefined
  return (
    <div className="sheet">
      <PageHead
        title="Year groups and homerooms"
        detail={year.name}
        act={
          s.mayChange && (
            <>
              {s.yearGroups.length > 1 && (
                <Button kind="plain" onClick={() => setDialog({ kind: 'order' })}>
                  Change the order
                </Button>
              )}
              <Button onClick={() => setDialog({ kind: 'add' })}>Add year groups</Button>
            </>
          )
        }
      />
      <UndoableMessage of={undoable} />
      {dialog?.kind === 'add' && (
        <div className="mb-5">
          <AddYearGroups yearId={year.id} onSaved={() => void refresh()} />
        </div>
      )}
      <Homerooms
        s={s}
        found={at}
        onEdit={(id) => setDialog({ kind: 'homeroom', id })}
        onClose={(id) => setDialog({ kind: 'close', id })}
        onPart={onPart}
      />
      {partDialog}
      {dialog?.kind === 'homeroom' && (
        <HomeroomDialog s={s} edited={homeroom} date={date} onClose={close} onSaved={saved} />
      )}
      {dialog?.kind === 'close' && homeroom && (
        <CloseHomeroom h={homeroom} date={date} onClose={close} onSaved={saved} />
      )}
      {dialog?.kind === 'order' && (
        <OrderDialog kind="year group" parts={s.yearGroups} onClose={close} onSaved={saved} />
      )}
    </div>
  )
}
