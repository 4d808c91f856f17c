'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { later } from '@/screen/later'

import { PageHead } from '@/screen/page-head'
import { UndoableMessage } from '@/screen/undoable'

import { PartName } from '@/app/(school)/school/structure/part-name'
import { NoYear, useStructure, type Structure } from '@/app/(school)/school/structure/use-structure'

const NamesDialog = later(() => import('@/screen/form/names-dialog').then((m) => m.NamesDialog))

type Room = Structure['rooms'][number]

/** The rooms of the school, each with who uses it. */
export function RoomsPage({ initial, date, at }: { initial: Structure; date: string; at?: string }) {
  const { s, undoable, done, onPart, partDialog } = useStructure(initial, date)
  const [dialog, setDialog] = useState<'add'>()
  const close = () => setDialog(undefined)
  const saved = (words: string, run: string | undefined) => {
    close()
    done(words, run)
  }
  if (!s.year) return <NoYear title="Rooms" mayChange={s.mayChange} />
  const usersOf = ({ id }: Room) =>
    [...s.homerooms.filter((h) => h.lastDay === null), ...s.classes]
      .filter((one) => one.roomId === id)
      .map((one) => one.name)
      .join(', ')
  const columns: readonly Column<Room>[] = [
    {
      id: 'name',
      title: 'Room',
      heading: true,
      cell: (room) => <PartName name={room.name} onOpen={onPart && (() => onPart('room', room.id))} />,
    },
    { id: 'users', title: 'Used by', cell: usersOf },
  ]
  return (
    <div className="sheet">
      <PageHead
        title="Rooms"
        detail={`${s.rooms.length}`}
        act={
          s.mayChange && (
            <>
              <Button onClick={() => setDialog('add')}>Add rooms</Button>
            </>
          )
        }
      />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Rooms"
        rows={s.rooms}
        columns={columns}
        rowKey={(part) => part.id}
        found={at}
        empty={<p>No rooms yet. A class or a homeroom can have one; it then stands in the lists.</p>}
      />
      {partDialog}
      {dialog === 'add' && (
        <NamesDialog
          command="year.addRooms"
          schema={() => import('@/core/calendar/inputs').then((m) => m.roomsInput)}
          title="Add rooms"
          label="Rooms"

          one="room"
          many="rooms"
          onClose={close}
          onSaved={saved}
        />
      )}
    </div>
  )
}
