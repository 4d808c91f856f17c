'use client'
import { useState } from 'react'
import { matchRank } from '@/core/people/names'
import { Button } from '@/ui/button'
import { limits } from '@/core/limits'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { onlyEdit } from '@/ui/table/edit-column'
import { useClock } from '@/screen/clock'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { ShownAtMost } from '@/screen/shown-at-most'
import { studentColumn } from '@/screen/student-columns'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import type { Template, Letters } from './letters'

const TemplateDialog = later(() => import('./template-dialog').then((m) => m.TemplateDialog))

type Sent = Letters['sent'][number]

const states = { waiting: 'on its way', sent: 'sent', failed: 'not sent' } as const

const sentColumns = (moment: (iso: string) => string): readonly Column<Sent>[] => [
  { id: 'at', title: 'When', value: (s) => s.at, cell: (s) => moment(s.at) },
  studentColumn((s) => ({ id: s.studentId, name: s.student })),
  { id: 'guardian', title: 'To', value: (s) => s.guardian, cell: (s) => s.guardian },
  {
    id: 'template',
    title: 'Letter',
    value: (s) => s.template,
    choices: (s) => [s.template],
    cell: (s) => s.template,
  },
  { id: 'percent', title: 'Present', align: 'right', value: (s) => s.percent, cell: (s) => s.percent },
  { id: 'sender', title: 'Sent by', value: (s) => s.sender, cell: (s) => s.sender },
  {
    id: 'state',
    title: 'State',
    value: (s) => states[s.state],
    choices: (s) => [states[s.state]],
    cell: (s) => <span className={s.state === 'failed' ? 'font-bold text-port' : ''}>{states[s.state]}</span>,
  },
]

/** Templates of letters about attendance, and what was sent to whom and when. */
export function LettersPage({ initial }: { initial: Letters }) {
  const [{ templates, sent }, refresh] = useLive('attendance.letters', {}, initial)
  const undoable = useUndoable(refresh)
  const view = useTableAddress()
  const { moment } = useClock()
  const [open, setOpen] = useState<'new' | string>()
  const edited = templates.find((t) => t.id === open)
  return (
    <div className="sheet">
      <AttendanceHead page="Letters" act={<Button onClick={() => setOpen('new')}>Add a template</Button>} />
      <UndoableMessage of={undoable} />
      <p className="mb-4 max-w-2xl">
        Letters are written under{' '}
        <Link className="link" href="/attendance/figures">
          Figures
        </Link>
        : choose students there, then Write letters.
      </p>
      <h2 className="mb-2">Templates</h2>
      <DataTable
        label="Templates"
        rows={templates}
        rowKey={(t) => t.id}
        columns={[
          { id: 'name', title: 'Name', heading: true, cell: (t) => t.name },
          { id: 'subject', title: 'Subject', cell: (t) => t.subject },
          onlyEdit<Template>(
            (t) => `the template ${t.name}`,
            (t) => setOpen(t.id),
          ),
        ]}
        empty={
          <p>
            No templates yet. A template is the text of a letter, with the figures filled in for each student.
          </p>
        }
      />
      <h2 className="mt-8 mb-2">Sent</h2>
      <DataTable
        label="Letters sent"
        rows={sent}
        rowKey={(s) => s.id}
        columns={sentColumns(moment)}
        view={view}
        download="attendance letters"
        filter={{
          label: 'Student or guardian',
          rank: (s, text) => matchRank(`${s.student} ${s.guardian}`, text),
          none: 'No letters match.',
        }}
        empty={<p>No letters have been sent yet.</p>}
      />
      <ShownAtMost count={sent.length} most={limits.lettersShown} what="letters" />
      {open !== undefined && (
        <TemplateDialog
          key={open}
          edited={edited}
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
