'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { comparableName, matchRank } from '@/core/people/names'
import { hasSome } from '@/core/people/roles'
import { numberWords } from '@/core/people/student-number'
import type { QueryOutput } from '@/server/registry'
import { Button, buttonLooks } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { ChosenBar } from '@/screen/chosen-bar'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { homeroomColumn, studentColumn, numberColumn } from '@/screen/student-columns'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import type { Student } from './people'

const MoveManyDialog = later(() => import('./move-many-dialog').then((m) => m.MoveManyDialog))
const MessageDialog = later(() => import('./message-dialog').then((m) => m.MessageDialog))
const LeaveDialog = later(() => import('./leave-dialog').then((m) => m.LeaveDialog))

const columns: readonly Column<Student>[] = [
  studentColumn((s) => s, { title: 'Name' }),
  numberColumn(),
  {
    id: 'group',
    title: 'Year group',
    value: (s) => s.yearGroup,
    choices: (s) => [s.yearGroup],
    cell: (s) => s.yearGroup,
  },
  homeroomColumn(<span className="text-port">no homeroom</span>),
]

const groupColumn: Column<Student> = {
  id: 'groups',
  title: 'Groups',
  value: (s) => s.groups.join('; '),
  choices: (s) => s.groups,
  cell: (s) => s.groups.join('; '),
}

/** Whose homeroom or year group is called what was typed come first and alone; else whoever the words are about. */
function rankIn(students: readonly Student[]) {
  const placesOf = (s: Student) => [s.homeroom ?? '', s.yearGroup, ...s.groups]
  const places = new Set(students.flatMap(placesOf).map(comparableName))
  return (s: Student, text: string): number | undefined => {
    const wanted = comparableName(text)
    const own = placesOf(s).some((place) => comparableName(place) === wanted)
    if (places.has(wanted)) return own ? 0 : undefined
    return matchRank(
      `${s.name} ${s.preferred ?? ''} ${s.number} ${numberWords(s.number)} ${s.homeroom ?? ''} ${s.yearGroup} ${s.guardians ?? ''}`,
      text,
    )
  }
}

/** Everyone on roll on the chosen date, narrowed while typing. */
export function PeopleList({ initial, date }: { initial: QueryOutput<'people.list'>; date: string }) {
  const { acts, actor } = useSchool()
  const [students, refresh] = useLive('people.list', { date }, initial)
  const undoable = useUndoable(refresh)
  const [keys, setKeys] = useState<ReadonlySet<string>>(new Set())
  const [dialog, setDialog] = useState<'move' | 'leave' | 'message'>()
  const grouped = acts.some((act) => act.href === '/people/groups')
  const chosen = students.filter((s) => keys.has(s.id))
  const howMany = chosen.length === 1 ? '1 student' : `${chosen.length} students`
  const saved = (words: string, run: string | undefined) => {
    setDialog(undefined)
    setKeys(new Set())
    undoable.done(words, run)
    void refresh()
  }
  const view = useTableAddress()
  const mayEnrol = acts.some((act) => act.href === '/people/enrol')
  return (
    <div className="sheet">
      <PageHead
        title="Students"
        detail={`${students.length} on roll on ${shortDate(date)}`}
        act={
          mayEnrol && (
            <Link href="/people/enrol" className={buttonLooks()}>
              Enrol a student
            </Link>
          )
        }
      />
      {chosen.length > 0 ? (
        <ChosenBar words={howMany} onNone={() => setKeys(new Set())}>
          <Button kind="plain" onClick={() => setDialog('move')}>
            Move
          </Button>
          <Button kind="plain" onClick={() => setDialog('leave')}>
            Leave
          </Button>
          {hasSome(actor.roles, 'administrator', 'head', 'office') && (
            <Button kind="plain" onClick={() => setDialog('message')}>
              Write to guardians
            </Button>
          )}
        </ChosenBar>
      ) : (
        <UndoableMessage of={undoable} />
      )}
      <DataTable
        label="Students"
        ticked={mayEnrol ? { keys, onChange: setKeys, nameOf: (s) => `Choose ${s.name}` } : undefined}
        download={`students ${date}`}
        rows={students}
        columns={grouped ? [...columns, groupColumn] : columns}
        rowKey={(s) => s.id}
        view={view}
        filter={{
          label: mayEnrol ? 'Name, number, homeroom or guardian' : 'Name, number, year group or homeroom',
          rank: rankIn(students),
          autoFocus: true,
          none: 'No matches. Check the spelling, or choose another date on the year line.',
        }}
        empty={
          <p>
            No students are on roll on this date.{' '}
            {mayEnrol && (
              <Link className="link" href="/people/enrol">
                Enrol the first student
              </Link>
            )}
          </p>
        }
      />
      {dialog === 'move' && (
        <MoveManyDialog
          students={chosen}
          date={date}
          onClose={() => setDialog(undefined)}
          onSaved={(from, run) => saved(`${howMany} moved from ${shortDate(from)}.`, run)}
        />
      )}
      {dialog === 'message' && (
        <MessageDialog
          studentIds={chosen.map((s) => s.id)}
          onClose={() => setDialog(undefined)}
          onSent={(words) => saved(words, undefined)}
        />
      )}
      {dialog === 'leave' && (
        <LeaveDialog
          students={chosen.map((s) => ({ studentId: s.id, expectedVersion: s.rollVersion }))}
          title={`Record ${howMany} as leaving`}
          date={date}
          onClose={() => setDialog(undefined)}
          onSaved={(lastDay, run) => saved(`Last day of ${howMany}: ${shortDate(lastDay)}.`, run)}
        />
      )}
    </div>
  )
}
