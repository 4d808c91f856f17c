'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { addDays } from '@/core/calendar/school-year'
import { matchRank } from '@/core/people/names'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { ChosenBar } from '@/screen/chosen-bar'
import { classPages } from '@/screen/class-pages'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { homeroomColumn, studentColumn, numberColumn } from '@/screen/student-columns'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import type { Member, Members } from './members'

const JoinDialog = later(() => import('./join-dialog').then((m) => m.JoinDialog))
const TakeOutDialog = later(() => import('./take-out-dialog').then((m) => m.TakeOutDialog))

const isIn = (m: Member, date: string) => m.from <= date && (m.until === null || m.until > date)
const stateOf = (m: Member, date: string) =>
  isIn(m, date) ? 'in the class' : m.from > date ? 'joins later' : 'has left'

const columns = (date: string): readonly Column<Member>[] => [
  studentColumn((m) => m, { title: 'Name' }),
  numberColumn(),
  homeroomColumn(),
  { id: 'from', title: 'First day', value: (m) => m.from, cell: (m) => shortDate(m.from, true) },
  {
    id: 'until',
    title: 'Last day',
    value: (m) => m.until && addDays(m.until, -1),
    cell: (m) => m.until && shortDate(addDays(m.until, -1), true),
  },
  {
    id: 'state',
    title: `On ${shortDate(date)}`,
    value: (m) => stateOf(m, date),
    choices: (m) => [stateOf(m, date)],
    cell: (m) => stateOf(m, date),
  },
]

/** Who is in a class, from when until when; students join and leave it together, from a day on. */
export function ClassStudents({
  initial,
  input,
}: {
  initial: Members
  input: { classId: string; date: string }
}) {
  const [{ class: c, members, mayMove }, refresh] = useLive('people.classMembers', input, initial)
  const place = useSchool()
  const { date } = input
  const view = useTableAddress()
  const undoable = useUndoable(refresh)
  const [keys, setKeys] = useState<ReadonlySet<string>>(new Set())
  const [dialog, setDialog] = useState<'join' | 'take out'>()
  const keyOf = (m: Member) => `${m.id} ${m.from}`
  const now = members.filter((m) => isIn(m, date))
  const chosen = members.filter((m) => keys.has(keyOf(m)))
  const saved = (words: string, run: string | undefined) => {
    setDialog(undefined)
    setKeys(new Set())
    undoable.done(words, run)
    void refresh()
  }
  const about = [c.subject, c.yearGroup, c.teachers ?? 'no teacher', c.room && `room ${c.room}`]
  const count = now.length === 1 ? '1 student' : `${now.length} students`
  return (
    <div className="sheet">
      <PageHead
        title={c.name}
        page="Students"
        pages={classPages(place, c.id)}
        detail={`${count} on ${shortDate(date)}. ${about.filter(Boolean).join(', ')}`}
        act={mayMove && <Button onClick={() => setDialog('join')}>Add students</Button>}
      />
      {chosen.length > 0 ? (
        <ChosenBar words={String(chosen.length)} onNone={() => setKeys(new Set())}>
          <Button kind="plain" onClick={() => setDialog('take out')}>
            Take out of the class
          </Button>
        </ChosenBar>
      ) : (
        <UndoableMessage of={undoable} />
      )}
      <DataTable
        label={`Students of ${c.name}`}
        download={`${c.name} students ${date}`}
        rows={members}
        rowKey={keyOf}
        rowClass={(m) => (isIn(m, date) ? '' : 'text-muted')}
        columns={columns(date)}
        view={view}
        ticked={
          mayMove
            ? { keys, onChange: setKeys, nameOf: (m) => `Choose ${m.name}`, can: (m) => isIn(m, date) }
            : undefined
        }
        filter={{
          label: 'Name, number or homeroom',
          rank: (m, text) => matchRank(`${m.name} ${m.number ?? ''} ${m.homeroom ?? ''}`, text),
          none: 'No matches. Check the spelling.',
        }}
        empty={
          <p>No students are in this class yet.{mayMove && ' Add them by homeroom, year group or name.'}</p>
        }
      />
      {dialog === 'join' && (
        <JoinDialog
          classId={c.id}
          name={c.name}
          yearGroup={c.yearGroup}
          date={date}
          present={new Set(now.map((m) => m.id))}
          onClose={() => setDialog(undefined)}
          onSaved={saved}
        />
      )}
      {dialog === 'take out' && (
        <TakeOutDialog
          classId={c.id}
          name={c.name}
          members={chosen}
          date={date}
          onClose={() => setDialog(undefined)}
          onSaved={saved}
        />
      )}
    </div>
  )
}
