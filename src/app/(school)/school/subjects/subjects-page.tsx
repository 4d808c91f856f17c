'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage } from '@/screen/undoable'
import { narrowedTo } from '@/screen/use-table-address'
import { PartName } from '@/app/(school)/school/structure/part-name'
import { NoYear, useStructure, type Structure } from '@/app/(school)/school/structure/use-structure'

const NamesDialog = later(() => import('@/screen/form/names-dialog').then((m) => m.NamesDialog))
const OrderDialog = later(() =>
  import('@/app/(school)/school/structure/order-dialog').then((m) => m.OrderDialog),
)

type Subject = Structure['subjects'][number]

/** The subjects of the school in the order of report cards, each with its classes. */
export function SubjectsPage({ initial, date, at }: { initial: Structure; date: string; at?: string }) {
  const { s, undoable, done, onPart, partDialog } = useStructure(initial, date)
  const [dialog, setDialog] = useState<'add' | 'order'>()
  const close = () => setDialog(undefined)
  const saved = (words: string, run: string | undefined) => {
    close()
    done(words, run)
  }
  if (!s.year) return <NoYear title="Subjects" mayChange={s.mayChange} />
  const classesOf = ({ id }: Subject) => s.classes.filter((c) => c.subjectId === id)
  const columns: readonly Column<Subject>[] = [
    {
      id: 'name',
      title: 'Subject',
      heading: true,
      cell: (subject) => (
        <PartName name={subject.name} onOpen={onPart && (() => onPart('subject', subject.id))} />
      ),
    },
    {
      id: 'classes',
      title: 'Classes',
      align: 'right',
      cell: (subject) => {
        const n = classesOf(subject).length
        return n === 0 ? (
          0
        ) : (
          <Link
            className="link"
            href={narrowedTo('/school/classes', { subject: subject.name })}
            aria-label={`${n} classes of ${subject.name}`}
          >
            {n}
          </Link>
        )
      },
    },
    {
      id: 'groups',
      title: 'Year groups',
      cell: (subject) => [...new Set(classesOf(subject).map((c) => c.yearGroup))].join(', '),
    },
  ]
  return (
    <div className="sheet">
      <PageHead
        title="Subjects"
        detail={`${s.subjects.length}`}
        act={
          s.mayChange && (
            <>
              {s.subjects.length > 1 && (
                <Button kind="plain" onClick={() => setDialog('order')}>
                  Change the order
                </Button>
              )}
              <Button onClick={() => setDialog('add')}>Add subjects</Button>
            </>
          )
        }
      />
      <UndoableMessage of={undoable} />
      <DataTable
        label="Subjects"
        rows={s.subjects}
        columns={columns}
        rowKey={(part) => part.id}
        found={at}
        empty={<p>No subjects yet. A class teaches one subject to one year group.</p>}
      />
      {partDialog}
      {dialog === 'order' && (
        <OrderDialog kind="subject" parts={s.subjects} onClose={close} onSaved={saved} />
      )}
      {dialog === 'add' && (
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
    </div>
  )
}
