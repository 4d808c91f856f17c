'use client'
import { useState } from 'react'
import { matchRank } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable, type Column } from '@/ui/table/data-table'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { SchoolHead } from '@/app/(school)/school/school-head'

const ClassDialog = later(() => import('./class-dialog').then((m) => m.ClassDialog))
const PartDialog = later(() => import('./part-dialog').then((m) => m.PartDialog))
const HomeroomDialog = later(() => import('./homeroom-dialog').then((m) => m.HomeroomDialog))
const SubjectsDialog = later(() => import('./subjects-dialog').then((m) => m.SubjectsDialog))
const YearGroups = later(() => import('./year-groups').then((m) => m.YearGroups))

export type Structure = QueryOutput<'year.classesAndParts'>
export type SchoolClass = Structure['classes'][number]
export type Homeroom = Structure['homerooms'][number]
type YearGroup = Structure['yearGroups'][number]

const nobody = <span className="text-port">no teacher</span>

/** Names of teachers by their ids, in the order of the list of staff. */
const teachers = (s: Structure, ids: readonly string[]) =>
  s.staff.filter((member) => ids.includes(member.id)).map((member) => member.name)

const termsOf = (s: Structure, c: SchoolClass) =>
  c.termIds.length === s.year?.terms.length
    ? 'all'
    : s.year?.terms
        .filter((t) => c.termIds.includes(t.id))
        .map((t) => t.name)
        .join(', ')

const classColumns = (s: Structure, onEdit: (id: string) => void): readonly Column<SchoolClass>[] => [
  { id: 'class', title: 'Class', heading: true, value: (c) => c.name, cell: (c) => c.name },
  { id: 'subject', title: 'Subject', value: (c) => c.subject, cell: (c) => c.subject },
  {
    id: 'terms',
    title: 'Terms',
    value: (c) => termsOf(s, c),
    cell: (c) => termsOf(s, c),
  },
  {
    id: 'teachers',
    title: 'Teachers',
    value: (c) => teachers(s, c.staffIds).join('; '),
    cell: (c) => (c.staffIds.length === 0 ? nobody : teachers(s, c.staffIds).join('; ')),
  },
  {
    id: 'students',
    title: 'Students',
    align: 'right',
    value: (c) => c.students,
    cell: (c) => (c.students === 0 ? <span className="text-port">0</span> : c.students),
  },
  ...(s.mayChange
    ? [
        {
          id: 'edit',
          title: 'Edit',
          quiet: true,
          align: 'right' as const,
          cell: (c: SchoolClass) => (
            <Button kind="quiet" className="-my-1" onClick={() => onEdit(c.id)}>
              Edit<span className="sr-only"> {c.name}</span>
            </Button>
          ),
        },
      ]
    : []),
]

/** A name that opens its dialog for those who may change it. */
function PartName({ name, onOpen }: { name: string; onOpen?: () => void }) {
  if (!onOpen) return name
  return (
    <button type="button" className="link min-h-6 text-left" onClick={onOpen}>
      {name}
    </button>
  )
}

type PartKind = 'year group' | 'homeroom' | 'subject'

function Homerooms({
  s,
  onEdit,
  onPart,
}: {
  s: Structure
  onEdit: (id: string) => void
  onPart?: (kind: PartKind, id: string) => void
}) {
  return (
    <DataTable
      label="Year groups and homerooms"
      rows={s.yearGroups.flatMap((group): readonly { group: YearGroup; room?: Homeroom }[] => {
        const rooms = s.homerooms.filter((h) => h.yearGroupId === group.id)
        return rooms.length === 0 ? [{ group }] : rooms.map((room) => ({ group, room }))
      })}
      rowKey={({ group, room }) => room?.id ?? group.id}
      empty={<p>No year groups yet. Add them in order, youngest first, each with its homerooms.</p>}
      columns={[
        {
          id: 'group',
          title: 'Year group',
          heading: true,
          cell: ({ group }) => (
            <PartName name={group.name} onOpen={onPart && (() => onPart('year group', group.id))} />
          ),
        },
        {
          id: 'homeroom',
          title: 'Homeroom',
          cell: ({ room }) =>
            room ? (
              <PartName name={room.name} onOpen={onPart && (() => onPart('homeroom', room.id))} />
            ) : (
              'no homeroom'
            ),
        },
        {
          id: 'teachers',
          title: 'Homeroom teacher',
          cell: ({ room }) =>
            room && (room.staffIds.length === 0 ? nobody : teachers(s, room.staffIds).join('; ')),
        },
        { id: 'students', title: 'Students', align: 'right', cell: ({ room }) => room?.students },
        {
          id: 'edit',
          title: 'Edit',
          quiet: true,
          align: 'right',
          cell: ({ room }) =>
            room &&
            s.mayChange && (
              <Button kind="quiet" className="-my-1" onClick={() => onEdit(room.id)}>
                Change<span className="sr-only"> the teacher of {room.name}</span>
              </Button>
            ),
        },
      ]}
    />
  )
}

/** What the school is made of: year groups with homerooms, subjects, and the classes of the year. */
export function StructurePage({ initial, date }: { initial: Structure; date: string }) {
  const [s, refresh] = useLive('year.classesAndParts', { date }, initial)
  const view = useTableAddress()
  const undoable = useUndoable(refresh)
  const [dialog, setDialog] = useState<{ kind: 'class' | 'homeroom' | 'subjects'; id?: string }>()
  const [opened, setOpened] = useState<{ kind: PartKind; id: string }>()
  const close = () => {
    setDialog(undefined)
    setOpened(undefined)
  }
  const onPart = s.mayChange ? (kind: PartKind, id: string) => setOpened({ kind, id }) : undefined
  const lists = { 'year group': s.yearGroups, homeroom: s.homerooms, subject: s.subjects }
  const part = opened && lists[opened.kind].find((x) => x.id === opened.id)
  const saved = (words: string, run: string | undefined) => {
    close()
    undoable.done(words, run)
    void refresh()
  }
  const { year } = s
  if (!year)
    return (
      <div className="sheet max-w-3xl">
        <SchoolHead title="Structure" />
        <p>
          Everything here belongs to an academic year.{' '}
          <Link className="link" href="/school/year">
            {s.mayChange ? 'Create it first' : 'An administrator creates it first'}
          </Link>
          .
        </p>
      </div>
    )
  const ready = s.subjects.length > 0 && s.yearGroups.length > 0
  return (
    <div className="sheet max-w-5xl">
      <SchoolHead
        title="Structure"
        detail={`Academic year ${year.name}`}
        act={
          s.mayChange && ready && <Button onClick={() => setDialog({ kind: 'class' })}>Add a class</Button>
        }
      />
      <UndoableMessage of={undoable} />
      <section className="mb-8">
        <h2 className="mb-1">Year groups and homerooms</h2>
        <Homerooms s={s} onEdit={(id) => setDialog({ kind: 'homeroom', id })} onPart={onPart} />
        {s.mayChange && (
          <div className="mt-3">
            <YearGroups yearId={year.id} open={s.yearGroups.length === 0} onSaved={() => void refresh()} />
          </div>
        )}
      </section>
      <section className="mb-8">
        <h2 className="mb-1">Subjects</h2>
        {s.subjects.length === 0 ? (
          <p className="mb-2">No subjects yet. A class teaches one subject to one year group.</p>
        ) : (
          <ul className="mb-2 flex flex-wrap gap-x-4 gap-y-1" aria-label="Subjects">
            {s.subjects.map(({ id, name }) => (
              <li key={id}>
                <PartName name={name} onOpen={onPart && (() => onPart('subject', id))} />
              </li>
            ))}
          </ul>
        )}
        {s.mayChange && (
          <Button kind="plain" onClick={() => setDialog({ kind: 'subjects' })}>
            Add subjects
          </Button>
        )}
      </section>
      <section>
        <h2 className="mb-1">Classes</h2>
        <DataTable
          label="Classes"
          download={`classes ${date}`}
          rows={s.classes}
          columns={classColumns(s, (id) => setDialog({ kind: 'class', id }))}
          rowKey={(c) => c.id}
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
      </section>
      {dialog?.kind === 'class' && (
        <ClassDialog
          s={s}
          edited={s.classes.find((c) => c.id === dialog.id)}
          date={date}
          onClose={close}
          onSaved={saved}
        />
      )}
      {dialog?.kind === 'homeroom' && (
        <HomeroomDialog
          s={s}
          edited={s.homerooms.find((h) => h.id === dialog.id)}
          date={date}
          onClose={close}
          onSaved={saved}
        />
      )}
      {opened && part && (
        <PartDialog
          kind={opened.kind}
          part={part}
          order={opened.kind === 'homeroom' ? undefined : lists[opened.kind].map((x) => x.id)}
          onClose={close}
          onSaved={saved}
        />
      )}
      {dialog?.kind === 'subjects' && <SubjectsDialog onClose={close} onSaved={saved} />}
    </div>
  )
}
