'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { onlyEdit } from '@/ui/table/edit-column'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import type { Group, Groups } from './groups'

const GroupDialog = later(() => import('./group-dialog').then((m) => m.GroupDialog))
const NamesDialog = later(() => import('@/screen/form/names-dialog').then((m) => m.NamesDialog))

const columns = (onEdit?: (group: Group) => void): readonly Column<Group>[] => [
  {
    id: 'name',
    title: 'Group',
    heading: true,
    value: (g) => g.name,
    cell: (g) => (
      <Link className="link" href={`/people?q=${encodeURIComponent(g.name)}`}>
        {g.name}
      </Link>
    ),
  },
  { id: 'students', title: 'Students', align: 'right', value: (g) => g.students, cell: (g) => g.students },
  ...(onEdit ? [onlyEdit((g: Group) => g.name, onEdit)] : []),
]

/** The groups by which results are looked at; students join them from their record or from the list of students. */
export function GroupsPage({ initial, date }: { initial: Groups; date: string }) {
  const [{ groups, mayChange }, refresh] = useLive('people.groups', { date }, initial)
  const undoable = useUndoable(refresh)
  const [open, setOpen] = useState<'new' | string>()
  const saved = (words: string, run: string | undefined) => {
    setOpen(undefined)
    undoable.done(words, run)
    void refresh()
  }
  const edited = groups.find((g) => g.id === open)
  return (
    <div className="sheet">
      <PageHead
        title="Groups"
        detail={`on ${shortDate(date)}`}
        act={mayChange && <Button onClick={() => setOpen('new')}>Add groups</Button>}
      />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Groups"
        download={`groups ${date}`}
        rows={groups}
        rowKey={(g) => g.id}
        columns={columns(mayChange ? (g) => setOpen(g.id) : undefined)}
        empty={
          <p>
            No groups yet. Groups are what results and attendance are compared by, such as language learners
            or students with a support plan.
          </p>
        }
      />
      {groups.length > 0 && (
        <p className="mt-4 text-muted">
          To put students into a group, choose them in the list of students and press Move.
        </p>
      )}
      {open === 'new' && (
        <NamesDialog
          command="people.addGroups"
          schema={() => import('@/core/people/inputs').then((m) => m.groupsInput)}
          title="Add groups"
          label="Groups"
          one="group"
          many="groups"
          onClose={() => setOpen(undefined)}
          onSaved={saved}
        />
      )}
      {open !== undefined && open !== 'new' && (
        <GroupDialog group={edited} onClose={() => setOpen(undefined)} onSaved={saved} />
      )}
    </div>
  )
}
