'use client'
import { useState } from 'react'
import { dayWords } from '@/core/calendar/day-words'
import { matchRank } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import { RemindButton } from '@/app/(school)/attendance/remind-button'
import { lessonHref, LessonRoom, LessonState, type Lesson } from './lesson-state'

const ArrangeDialog = later(() => import('./arrange-dialog').then((m) => m.ArrangeDialog))

const keyOf = ({ classId, period }: Lesson) => `${classId} ${period}`
const stateOf = (l: Lesson) =>
  l.cancelled || !l.register
    ? 'no register'
    : !l.begun
      ? 'to come'
      : l.marked >= l.onRoll
        ? 'complete'
        : l.marked === 0
          ? 'not started'
          : 'started'

const columnsOf = (
  date: string,
  onArrange: ((lesson: Lesson) => void) | undefined,
  onReminded: ((said: { words: string; wrong?: boolean }) => void) | undefined,
): readonly Column<Lesson>[] => [
  {
    id: 'period',
    title: 'Period',
    value: (l) => l.period,
    choices: (l) => [String(l.period)],
    cell: (l) => (
      <>
        {l.period} <span className="text-muted">{l.starts}</span>
      </>
    ),
  },
  {
    id: 'class',
    title: 'Class',
    heading: true,
    value: (l) => l.name,
    cell: (l) => (
      <Link className={`link ${l.cancelled ? 'line-through' : ''}`} href={lessonHref(l, date)}>
        {l.name}
      </Link>
    ),
  },
  {
    id: 'teacher',
    title: 'Teacher',
    value: (l) => l.coverListed ?? l.teacherListed,
    choices: (l) => [l.coverListed ?? l.teacherListed ?? 'no teacher'],
    cell: (l) =>
      l.cover ? (
        <>
          <strong>{l.coverListed}</strong>{' '}
          <span className="text-muted">for {l.teacherListed ?? 'no teacher'}</span>
        </>
      ) : (
        (l.teacherListed ?? <span className="text-port">no teacher</span>)
      ),
  },
  {
    id: 'room',
    title: 'Room',
    value: (l) => l.room,
    choices: (l) => [l.room ?? 'no room'],
    cell: (l) => <LessonRoom lesson={l} />,
  },
  {
    id: 'group',
    title: 'Year group',
    value: (l) => l.yearGroup,
    choices: (l) => [l.yearGroup],
    cell: (l) => l.yearGroup,
  },
  {
    id: 'state',
    title: 'Register',
    value: (l) => stateOf(l),
    choices: (l) => [stateOf(l)],
    cell: (l) => (
      <span className="flex flex-wrap items-center gap-x-2 whitespace-nowrap">
        <LessonState lesson={l} />
        {onReminded && l.begun && l.register && !l.cancelled && l.marked < l.onRoll && (
          <RemindButton
            of={{ homeroomId: null, classId: l.classId, date, session: String(l.period) }}
            words={`the register of ${l.name} in period ${l.period}`}
            reminded={l.reminded}
            onDone={onReminded}
          />
        )}
      </span>
    ),
  },
  ...(onArrange
    ? [
        {
          id: 'arrange',
          title: 'Change for this day',
          quiet: true,
          className: 'text-right',
          cell: (l: Lesson) => (
            <Button kind="quiet" onClick={() => onArrange(l)}>
              Change<span className="max-lg:sr-only">&nbsp;for this day</span>
              <span className="sr-only">
                {': '}
                {l.name}, period {l.period}
              </span>
            </Button>
          ),
        } satisfies Column<Lesson>,
      ]
    : []),
]

/** All lessons of the chosen day: whose they are, where, and how far their registers are; cover is arranged from here. */
export function LessonsPage({
  initial,
  date,
}: {
  initial: QueryOutput<'attendance.lessonsOfDay'>
  date: string
}) {
  const [{ day, cycleDay, lessons, mayArrange, mayRemind, rooms, staff }, refresh] = useLive(
    'attendance.lessonsOfDay',
    { date },
    initial,
  )
  const undoable = useUndoable(refresh)
  const view = useTableAddress()
  const [open, setOpen] = useState<string>()
  const arranged = lessons.find((l) => keyOf(l) === open)
  return (
    <div className="sheet print-wide">
      <AttendanceHead page="Lessons" detail={cycleDay ? `Timetable day: ${cycleDay}` : dayWords(day)} />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Lessons of the day"
        rows={lessons}
        columns={columnsOf(
          date,
          mayArrange ? (l) => setOpen(keyOf(l)) : undefined,
          mayRemind
            ? (said) => {
                if (said.wrong) undoable.warn(said.words)
                else undoable.done(said.words)
                void refresh()
              }
            : undefined,
        )}
        rowKey={keyOf}
        view={view}
        download={`lessons ${date}`}
        filter={{
          label: 'Class, teacher or room',
          rank: (l, text) => matchRank(`${l.name} ${l.cover ?? ''} ${l.teacher ?? ''} ${l.room ?? ''}`, text),
          none: 'No lessons match.',
        }}
        empty={
          <p>
            {day?.kind === 'school day'
              ? 'The timetable has no lessons on this day. It is entered under School, Timetable.'
              : `There are no lessons: ${dayWords(day)}.`}
          </p>
        }
      />
      {arranged && (
        <ArrangeDialog
          key={open}
          lesson={arranged}
          date={date}
          rooms={rooms}
          staff={staff}
          onClose={() => setOpen(undefined)}
          onSaved={(words, run) => {
            setOpen(undefined)
            undoable.done(words, run)
            void refresh()
          }}
        />
      )}
    </div>
  )
}
