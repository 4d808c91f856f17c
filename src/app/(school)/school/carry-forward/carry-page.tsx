'use client'
import { useMemo, useState } from 'react'
import { canBeCarried } from '@/core/calendar/carrying'
import { shortDate } from '@/core/calendar/date-words'
import { matchRank } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Tick } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'

const PreviewDialog = later(() =>
  import('@/screen/preview-dialog').then((m) => m.PreviewDialog<'carry.forward'>),
)

type Plan = QueryOutput<'carry.plan'>
type Carried = Plan['classes'][number]

const nClasses = (n: number) => (n === 1 ? '1 class' : `${n} classes`)

/** What happens to a class, in words. */
function words({ state, name }: Carried, term: string): string {
  switch (state) {
    case 'new class':
      return `will be created in ${term}`
    case 'new term':
      return `${term} will be added`
    case 'marks settings':
      return 'categories and rules will be copied'
    case 'exists':
      return 'already there'
    case 'name taken':
      return `cannot be carried: another class is already called ${name}`
  }
}

const columns = (term: string): readonly Column<Carried>[] => [
  { id: 'class', title: 'Class', heading: true, value: (c) => c.name, cell: (c) => c.name },
  { id: 'group', title: 'Year group', value: (c) => c.yearGroup, cell: (c) => c.yearGroup },
  {
    id: 'teachers',
    title: 'Teachers',
    value: (c) => c.teachers.join('; '),
    cell: (c) => (
      <>
        {c.teachers.join('; ') || <span className="text-port">no teacher</span>}
        {c.left.length > 0 && (
          <span className="block text-[13px] text-muted">{c.left.join('; ')} has no active account</span>
        )}
      </>
    ),
  },
  { id: 'students', title: 'Students', align: 'right', value: (c) => c.students, cell: (c) => c.students },
  {
    id: 'state',
    title: 'What happens',
    value: (c) => words(c, term),
    cell: (c) => (
      <span className={c.state === 'name taken' ? 'text-port' : c.state === 'exists' ? 'text-muted' : ''}>
        {words(c, term)}
      </span>
    ),
  },
]

/** A school without terms has nothing to carry. */
export function NoTerm() {
  return (
    <div className="sheet reading">
      <PageHead title="Carry forward" />
      <p>
        Classes are carried from one term to the next.{' '}
        <Link className="link" href="/school/year">
          Create the academic year first
        </Link>
        .
      </p>
    </div>
  )
}

/** Carries the classes of a term to the next one: what would happen to each, which of them, and with their students or not. */
export function CarryPage({
  initial,
  terms,
}: {
  initial: Plan
  terms: readonly { readonly id: string; readonly name: string }[]
}) {
  const [{ from, to, classes }, refresh] = useLive('carry.plan', { termId: initial.from.id }, initial)
  const view = useTableAddress()
  const undoable = useUndoable(refresh)
  const able = useMemo(() => classes.filter((c) => canBeCarried(c.state)).map((c) => c.classId), [classes])
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const newYear = to !== null && to.yearId !== from.yearId
  const [students, setStudents] = useState(!newYear)
  const keys = useMemo(() => new Set(able.filter((id) => !left.has(id))), [able, left])
  const [asked, setAsked] = useState<{
    fromTermId: string
    toTermId: string
    classIds: string[]
    withStudents: boolean
  }>()
  const toWords = to ? (newYear ? `${to.name} ${to.yearName}` : to.name) : ''
  return (
    <div className="sheet">
      <PageHead
        title="Carry forward"
        detail={
          to ? `From ${from.name} ${from.yearName} to ${toWords}` : `From ${from.name} ${from.yearName}`
        }
        act={
          to &&
          able.length > 0 && (
            <Button
              disabled={keys.size === 0}
              onClick={() =>
                setAsked({
                  fromTermId: from.id,
                  toTermId: to.id,
                  classIds: [...keys],
                  withStudents: students,
                })
              }
            >
              Carry {nClasses(keys.size)}
            </Button>
          )
        }
      />
      <UndoableMessage of={undoable} />
      <nav aria-label="From term" className="no-print mb-4 flex flex-wrap gap-x-5">
        <span className="text-muted">From</span>
        {terms.map((t) => (
          <Link
            key={t.id}
            href={`/school/carry-forward?term=${t.id}`}
            className={t.id === from.id ? 'font-bold no-underline' : 'link'}
            aria-current={t.id === from.id ? 'true' : undefined}
          >
            {t.name}
          </Link>
        ))}
      </nav>
      {!to ? (
        <p>
          There is no term after {from.name}.{' '}
          <Link className="link" href="/school/year">
            Create the next academic year
          </Link>{' '}
          to carry classes into it.
        </p>
      ) : (
        <>
          <p className="mb-2">
            {toWords} begins on {shortDate(to.firstDay, true)}. Classes are carried with their teachers,
            grading scale, categories and rules. What is already there stays as it is.
          </p>
          {able.length > 0 ? (
            <div className="mb-4">
              <Tick
                label="Students come along"
                detail={
                  newYear
                    ? 'not usual in a new year, since students move up'
                    : 'without, their last day is the day before the term begins'
                }
                checked={students}
                onChange={(e) => setStudents(e.target.checked)}
              />
            </div>
          ) : (
            classes.length > 0 && (
              <p className="hint mb-4">Every class that can be carried is already in {toWords}.</p>
            )
          )}
          <DataTable
            label="Classes to carry"
            download={`carry forward to ${toWords}`}
            rows={classes}
            columns={columns(toWords)}
            rowKey={(c) => c.classId}
            view={view}
            ticked={
              able.length === 0
                ? undefined
                : {
                    keys,
                    onChange: (next) => setLeft(new Set(able.filter((id) => !next.has(id)))),
                    nameOf: (c) => `Carry ${c.name}`,
                    can: (c) => canBeCarried(c.state),
                  }
            }
            filter={{
              label: 'Class, year group or teacher',
              rank: (c, text) =>
                matchRank(`${c.name} ${c.subject} ${c.yearGroup} ${c.teachers.join(' ')}`, text),
              none: 'No matches. Check the spelling.',
            }}
            empty={<p>No classes run in this term.</p>}
          />
        </>
      )}
      {asked && (
        <PreviewDialog
          command="carry.forward"
          input={asked}
          title={`Carry ${nClasses(asked.classIds.length)} to ${toWords}`}
          description={asked.withStudents ? 'Students come along.' : 'Students do not come along.'}
          unchanged="Nothing would change: these classes and their students have been carried forward already."
          act="Carry forward"
          onClose={() => setAsked(undefined)}
          onDone={({ carried }, run) => {
            setAsked(undefined)
            undoable.done(`${nClasses(carried)} carried to ${toWords}.`, run)
            void refresh()
          }}
        />
      )}
    </div>
  )
}
