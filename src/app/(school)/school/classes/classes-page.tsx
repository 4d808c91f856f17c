'use client'
import { useState } from 'react'
import { matchRank } from '@/core/people/names'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { onlyEdit } from '@/ui/table/edit-column'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage } from '@/screen/undoable'
import { useTableAddress } from '@/screen/use-table-address'
import {
  nobody,
  NoYear,
  roomOf,
  teachers,
  useStructure,
  type SchoolClass,
  type Structure,
} from '@/app/(school)/school/structure/use-structure'

const ClassDialog = later(() => import('./class-dialog').then((m) => m.ClassDialog))

const termsOf = (s: Structure, c: SchoolClass) =>
  c.termIds.length === s.year?.terms.length
    ? 'all'
    : s.year?.terms
        .filter((t) => c.termIds.includes(t.id))
        .map((t) => t.name)
        .join(', ')

const classColumns = (s: Structure, onEdit: (id: string) => void): readonly Column<SchoolClass>[] => [
  {
    id: 'class',
    title: 'Class',
    heading: true,
    value: (c) => c.name,
    choices: (c) => [c.name],
    cell: (c) => c.name,
  },
  {
    id: 'group',
    title: 'Year group',
    value: (c) => c.yearGroup,
    choices: (c) => [c.yearGroup],
    cell: (c) => c.yearGroup,
  },
  {
    id: 'subject',
    title: 'Subject',
    value: (c) => c.subject,
    choices: (c) => [c.subject],
    cell: (c) => c.subject,
  },
  {
    id: 'terms',
    title: 'Terms',
    value: (c) => termsOf(s, c),
    choices: (c) => s.year?.terms.filter((t) => c.termIds.includes(t.id)).map((t) => t.name) ?? [],
    cell: (c) => termsOf(s, c),
  },
  {
    id: 'teachers',
    title: 'Teachers',
    value: (c) => teachers(s, c.staffIds).join('; '),
    choices: (c) => (c.staffIds.length === 0 ? ['no teacher'] : teachers(s, c.staffIds)),
    cell: (c) => (c.staffIds.length === 0 ? nobody : teachers(s, c.staffIds).join('; ')),
  },
  ...(s.rooms.length > 0
    ? [
        {
          id: 'room',
          title: 'Room',
          value: (c: SchoolClass) => roomOf(s, c),
          cell: (c: SchoolClass) => roomOf(s, c),
        },
      ]
    : []),
  {
    id: 'students',
    title: 'Students',
    align: 'right',
    value: (c) => c.students,
    cell: (c) => (c.students === 0 ? <span className="text-port">0</span> : c.students),
  },
  ...(s.mayChange
    ? [
        onlyEdit(
          (c: SchoolClass) => c.name,
          (c) => onEdit(c.id),
        ),
      ]
    : []),
]

/** The classes of the year with subject, terms, teachers and room. */
export function ClassesPage({ initial, date, at }: { initial: Structure; date: string; at?: string }) {
  const { s, undoable, done } = useStructure(initial, date)
  const view = useTableAddress()
  const [edited, setEdited] = useState<{ id?: string }>()
  const { year } = s
  if (!year) return <NoYear title="Classes and teachers" mayChange={s.mayChange} />
  const ready = s.subjects.length > 0 && s.yearGroups.length > 0
  return (
    <div className="sheet print-wide">
      <PageHead
        title="Classes and teachers"
        detail={`${s.classes.length} in ${year.name}`}
        act={s.mayChange && ready && <Button onClick={() => setEdited({})}>Add a class</Button>}
      />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Classes"
        download={`classes ${date}`}
        rows={s.classes}
        columns={classColumns(s, (id) => setEdited({ id }))}
        rowKey={(c) => c.id}
        found={at}
        view={view}
        filter={{
          label: 'Class, subject, year group or teacher',
          rank: (c, text) =>
            matchRank(`${c.name} ${c.subject} ${c.yearGroup} ${teachers(s, c.staffIds).join(' ')}`, text),
          none: 'No matches. Check the spelling.',
        }}
        empty={
          <p>
            {ready ? 'No classes in this year yet.' : 'No classes yet. Add year groups and subjects first.'}
          </p>
        }
      />
      {edited && (
        <ClassDialog
          s={s}
          edited={s.classes.find((c) => c.id === edited.id)}
          date={date}
          onClose={() => setEdited(undefined)}
          onSaved={(words, run) => {
            setEdited(undefined)
            done(words, run)
          }}
        />
      )}
    </div>
  )
}
