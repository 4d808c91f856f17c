'use client'
import { useState } from 'react'
import { isBelow, mayMiss } from '@/core/attendance/figures'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import { later } from '@/screen/later'
import { MessageAtFoot, useMessage } from '@/screen/message'
import { useSchool } from '@/screen/school-context'
import { homeroomColumn, studentColumn } from '@/screen/student-columns'
import { figureColumns, type Figures, type Open, type StudentFigures } from './figure-columns'
import type { Scope } from './scope'

const LettersDialog = later(() => import('./letters-dialog').then((m) => m.LettersDialog))

/** Each student's figures, who is below the threshold, how much more may be missed, and letters to their families. */
export function StudentsTable({
  figures,
  threshold,
  name,
  scope,
  onOpen,
}: {
  figures: Figures
  threshold: number
  name: string
  scope: Scope
  onOpen: Open
}) {
  const view = useTableView()
  const { acts } = useSchool()
  const { message, say } = useMessage()
  const [keys, setKeys] = useState<ReadonlySet<string>>(new Set())
  const [writing, setWriting] = useState(false)
  const mayWrite = acts.some((a) => a.href === '/attendance/letters')
  const chosen = figures.students.filter((s) => keys.has(s.id))
  const below = figures.students.filter((s) => isBelow(s.figures, threshold))
  const columns: readonly Column<StudentFigures>[] = [
    studentColumn((s) => s, { beside: (s) => !s.now && <span className="text-muted">, left</span> }),
    homeroomColumn(),
    ...figureColumns<StudentFigures>((s) => ({ words: s.name, studentId: s.id }), onOpen),
    {
      id: 'below',
      title: `Below ${threshold}%`,
      value: (s) => (isBelow(s.figures, threshold) ? 'below' : 'not below'),
      choices: (s) => [isBelow(s.figures, threshold) ? 'below' : 'not below'],
      cell: (s) =>
        isBelow(s.figures, threshold) && (
          <strong className="text-port">
            <span aria-hidden>▼ </span>below
          </strong>
        ),
    },
    {
      id: 'miss',
      title: 'May miss',
      align: 'right',
      value: (s) => mayMiss(s.figures, s.left, threshold) ?? -1,
      cell: (s) => {
        if (!s.now || s.figures.possible === 0) return null
        const spare = mayMiss(s.figures, s.left, threshold)
        return spare === undefined ? (
          <span className="text-port">cannot reach it</span>
        ) : (
          `${spare} of ${s.left}`
        )
      },
    },
  ]
  return (
    <>
      <MessageAtFoot {...message} onClose={() => say('')} />
      <DataTable
        label="Students"
        rows={figures.students}
        columns={columns}
        rowKey={(s) => s.id}
        view={view}
        download={`attendance figures ${name} to ${figures.until}`}
        ticked={mayWrite ? { keys, onChange: setKeys, nameOf: (s) => `Choose ${s.name}` } : undefined}
        acts={
          mayWrite && (
            <>
              <Button
                kind="plain"
                onClick={() => setKeys(new Set(below.filter((s) => s.now).map((s) => s.id)))}
              >
                Choose those below {threshold}%
              </Button>
              <Button kind="plain" disabled={chosen.length === 0} onClick={() => setWriting(true)}>
                Write letters{chosen.length > 0 && ` (${chosen.length})`}
              </Button>
            </>
          )
        }
        caption={`${below.length} of ${figures.students.length} below ${threshold}%`}
        empty={<p>Nobody belonged here in this period.</p>}
      />
      {writing && (
        <LettersDialog
          studentIds={chosen.map((s) => s.id)}
          counted={{
            from: scope.from,
            date: figures.until,
            sessions: scope.sessions,
            classId: scope.kind === 'class' && scope.sessions === 'lessons' ? scope.id : null,
          }}
          onClose={() => setWriting(false)}
          onSent={(words) => {
            setWriting(false)
            setKeys(new Set())
            say(words)
          }}
        />
      )}
    </>
  )
}
