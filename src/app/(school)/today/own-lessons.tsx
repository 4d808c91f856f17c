'use client'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import {
  lessonHref,
  LessonRoom,
  LessonState,
  type Lesson,
} from '@/app/(school)/attendance/lessons/lesson-state'

const columnsOf = (date: string, present: string | undefined): readonly Column<Lesson>[] => [
  {
    id: 'time',
    title: 'Time',
    className: 'whitespace-nowrap',
    cell: (l) => (
      <>
        {l.starts} to {l.ends}
        {`${l.classId} ${l.period}` === present && (
          <strong className="ml-2">{l.begun ? 'now' : 'next'}</strong>
        )}
      </>
    ),
  },
  {
    id: 'class',
    title: 'Lesson',
    heading: true,
    cell: (l) => (
      <>
        <Link className={`link ${l.cancelled ? 'line-through' : ''}`} href={lessonHref(l, date)}>
          {l.name}
        </Link>
        {l.cover && <span className="text-muted">, cover for {l.teacher ?? 'no teacher'}</span>}
        {l.note && <span className="text-muted">, {l.note}</span>}
      </>
    ),
  },
  { id: 'room', title: 'Room', className: 'whitespace-nowrap', cell: (l) => <LessonRoom lesson={l} /> },
  { id: 'roll', title: 'Students', align: 'right', cell: (l) => l.onRoll },
  { id: 'state', title: 'Register', className: 'whitespace-nowrap', cell: (l) => <LessonState lesson={l} /> },
]

/** The person's lessons of the day in their order; nothing for those who have none. */
export function OwnLessons({
  initial,
  date,
}: {
  initial: QueryOutput<'attendance.ownLessons'>
  date: string
}) {
  const [{ lessons, present, cycleDay }] = useLive('attendance.ownLessons', { date }, initial)
  if (lessons.length === 0) return null
  return (
    <section className="mt-8" aria-labelledby="lessons">
      <h2 id="lessons" className="mb-2">
        Your lessons <span className="font-normal text-muted">{cycleDay}</span>
      </h2>
      <DataTable
        label="Your lessons"
        rows={lessons}
        columns={columnsOf(date, present)}
        rowKey={(l) => `${l.classId} ${l.period}`}
        empty={null}
      />
    </section>
  )
}
