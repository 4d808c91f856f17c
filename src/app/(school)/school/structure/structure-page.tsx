'use client'
import { useState } from 'react'
import type { PartKind } from '@/core/calendar/inputs'
import { matchRank } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable, type Column } from '@/ui/table/data-table'
import { onlyEdit } from '@/ui/table/edit-column'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { SchoolHead } from '@/app/(school)/school/school-head'
import { Homerooms } from './homerooms'
import { PartNames, type OpenPart } from './part-name'

const ClassDialog = later(() => import('./class-dialog').then((m) => m.ClassDialog))
const PartDialog = later(() => import('./part-dialog').then((m) => m.PartDialog))
const HomeroomDialog = later(() => import('./homeroom-dialog').then((m) => m.HomeroomDialog))
const CloseHomeroom = later(() => import('./close-homeroom').then((m) => m.CloseHomeroom))
const NamesDialog = later(() => import('@/screen/form/names-dialog').then((m) => m.NamesDialog))
const OrderDialog = later(() => import('./order-dialog').then((m) => m.OrderDialog))
const YearGroups = later(() => import('./year-groups').then((m) => m.YearGroups))

export type Structure = QueryOutput<'year.classesAndParts'>
export type SchoolClass = Structure['classes'][number]
export type Homeroom = Structure['homerooms'][number]

export const nobody = <span className="text-port">no teacher</span>

/** Names of teachers by their ids, in the order of the list of staff. */
export const teachers = (s: Structure, ids: readonly string[]) =>
  s.staff.filter((member) => ids.includes(member.id)).map((member) => member.name)

/** The room of a class or a homeroom, by name. */
export const roomOf = (s: Structure, of: { readonly roomId: string | null }) =>
  s.rooms.find((room) => room.id === of.roomId)?.name

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

type Opened =
  | { readonly kind: 'class' | 'homeroom' | 'close homeroom'; readonly id?: string }
  | { readonly kind: 'subjects' | 'rooms' | 'order of year groups' | 'order of subjects' }

/** What the school is made of: year groups with homerooms, subjects, and the classes of the year. */
export function StructurePage({ initial, date }: { initial: Structure; date: string }) {
  const [s, refresh] = useLive('year.classesAndParts', { date }, initial)
  const view = useTableAddress()
  const undoable = useUndoable(refresh)
  const [dialog, setDialog] = useState<Opened>()
  const [opened, setOpened] = useState<{ kind: PartKind; id: string }>()
  const close = () => {
    setDialog(undefined)
    setOpened(undefined)
  }
  const onPart: OpenPart | undefined = s.mayChange ? (kind, id) => setOpened({ kind, id }) : undefined
  const lists = { 'year group': s.yearGroups, homeroom: s.homerooms, subject: s.subjects, room: s.rooms }
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
  const closing = dialog?.kind === 'close homeroom' ? s.homerooms.find((h) => h.id === dialog.id) : undefined
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
        <Homerooms
          s={s}
          onEdit={(id) => setDialog({ kind: 'homeroom', id })}
          onClose={(id) => setDialog({ kind: 'close homeroom', id })}
          onPart={onPart}
        />
        {s.mayChange && (
          <div className="mt-3 flex flex-wrap items-start gap-3">
            <YearGroups yearId={year.id} open={s.yearGroups.length === 0} onSaved={() => void refresh()} />
            {s.yearGroups.length > 1 && (
              <Button kind="plain" onClick={() => setDialog({ kind: 'order of year groups' })}>
                Change the order
              </Button>
            )}
          </div>
        )}
      </section>
      <section className="mb-8">
        <h2 className="mb-1">Subjects</h2>
        <PartNames
          label="Subjects"
          kind="subject"
          parts={s.subjects}
          none="No subjects yet. A class teaches one subject to one year group."
          onPart={onPart}
        />
        {s.mayChange && (
          <p className="flex flex-wrap gap-3">
            <Button kind="plain" onClick={() => setDialog({ kind: 'subjects' })}>
              Add subjects
            </Button>
            {s.subjects.length > 1 && (
              <Button kind="plain" onClick={() => setDialog({ kind: 'order of subjects' })}>
                Change their order
              </Button>
            )}
          </p>
        )}
      </section>
      {(s.mayChange || s.rooms.length > 0) && (
        <section className="mb-8">
          <h2 className="mb-1">Rooms</h2>
          <PartNames
            label="Rooms"
            kind="room"
            parts={s.rooms}
            none="No rooms yet. A class or a homeroom can have one; it then stands in the lists."
            onPart={onPart}
          />
          {s.mayChange && (
            <Button kind="plain" onClick={() => setDialog({ kind: 'rooms' })}>
              Add rooms
            </Button>
          )}
        </section>
      )}
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
      {opened && <PartDialog kind={opened.kind} part={part} onClose={close} onSaved={saved} />}
      {closing && <CloseHomeroom h={closing} date={date} onClose={close} onSaved={saved} />}
      {dialog?.kind === 'order of year groups' && (
        <OrderDialog kind="year group" parts={s.yearGroups} onClose={close} onSaved={saved} />
      )}
      {dialog?.kind === 'order of subjects' && (
        <OrderDialog kind="subject" parts={s.subjects} onClose={close} onSaved={saved} />
      )}
      {dialog?.kind === 'subjects' && (
        <NamesDialog
          command="year.addSubjects"
          schema={() => import('@/core/calendar/inputs').then((m) => m.subjectsInput)}
          title="Add subjects"
          label="Subjects"
          help="One per line or separated by commas, in the order of the report card"
          one="subject"
          many="subjects"
          onClose={close}
          onSaved={saved}
        />
      )}
      {dialog?.kind === 'rooms' && (
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
