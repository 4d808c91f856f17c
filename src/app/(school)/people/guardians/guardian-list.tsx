'use client'
import { Fragment, useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { languageName } from '@/core/people/languages'
import { matchRank } from '@/core/people/names'
import { hasSome } from '@/core/people/roles'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { ChosenBar } from '@/screen/chosen-bar'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { MessageAtFoot, useMessage } from '@/screen/message'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'

const MessageDialog = later(() => import('@/app/(school)/people/message-dialog').then((m) => m.MessageDialog))

type Guardian = QueryOutput<'people.guardians'>[number]

const studentsOf = (g: Guardian) => g.students.map((s) => s.name).join('; ')

const columns: readonly Column<Guardian>[] = [
  { id: 'name', title: 'Name', heading: true, value: (g) => g.name, cell: (g) => g.name },
  {
    id: 'students',
    title: 'Students',
    value: studentsOf,
    cell: (g) =>
      g.students.map((s, i) => (
        <Fragment key={s.id}>
          {i > 0 && '; '}
          <Link className="link" href={`/people/${s.id}`}>
            {s.name}
          </Link>
        </Fragment>
      )),
  },
  {
    id: 'phone',
    title: 'Telephone',
    value: (g) => g.phone,
    cell: (g) => <span className="whitespace-nowrap">{g.phone}</span>,
  },
  { id: 'email', title: 'E-mail', value: (g) => g.email, cell: (g) => g.email },
  {
    id: 'language',
    title: 'Language',
    value: (g) => languageName(g.language),
    choices: (g) => [languageName(g.language)],
    cell: (g) => languageName(g.language),
  },
]

/** The guardians of everyone on roll on the chosen date, narrowed while typing; each leads to its students. */
export function GuardianList({ initial, date }: { initial: QueryOutput<'people.guardians'>; date: string }) {
  const [guardians] = useLive('people.guardians', { date }, initial)
  const { actor } = useSchool()
  const { message, say } = useMessage()
  const [keys, setKeys] = useState<ReadonlySet<string>>(new Set())
  const [writing, setWriting] = useState(false)
  const mayWrite = hasSome(actor.roles, 'administrator', 'head', 'office')
  const view = useTableAddress()
  return (
    <div className="sheet print-wide">
      <PageHead title="Guardians" detail={`${guardians.length} on ${shortDate(date)}`} />
      {keys.size > 0 ? (
        <ChosenBar words={String(keys.size)} onNone={() => setKeys(new Set())}>
          <Button kind="plain" onClick={() => setWriting(true)}>
            Write to them
          </Button>
        </ChosenBar>
      ) : (
        <MessageAtFoot {...message} onClose={() => say('')} />
      )}
      <DataTable
        label="Guardians"
        ticked={mayWrite ? { keys, onChange: setKeys, nameOf: (g) => `Choose ${g.name}` } : undefined}
        download={`guardians ${date}`}
        rows={guardians}
        columns={columns}
        rowKey={(g) => g.id}
        view={view}
        filter={{
          label: 'Name, student, telephone or e-mail',
          rank: (g, text) => matchRank(`${g.name} ${studentsOf(g)} ${g.phone ?? ''} ${g.email ?? ''}`, text),
          autoFocus: true,
          none: 'No matches. Check the spelling, or choose another date on the year line.',
        }}
        empty={<p>No guardians on record for the students of this date.</p>}
      />
      {writing && (
        <MessageDialog
          guardianIds={[...keys]}
          onClose={() => setWriting(false)}
          onSent={(words) => {
            setWriting(false)
            setKeys(new Set())
            say(words)
          }}
        />
      )}
    </div>
  )
}
