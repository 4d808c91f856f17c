'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { hasSome, roleWords } from '@/core/people/roles'
import { matchRank } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { useTableAddress } from '@/screen/use-table-address'

const AddStaff = later(() => import('./add-staff').then((m) => m.AddStaff))

type Member = QueryOutput<'staffing.list'>[number]

const stateOf = (m: Member) =>
  m.username === null
    ? 'no account'
    : !m.active
      ? 'deactivated'
      : m.mustChangePassword
        ? 'has not signed in yet'
        : 'active'

const columns: readonly Column<Member>[] = [
  {
    id: 'name',
    title: 'Name',
    heading: true,
    value: (m) => m.name,
    cell: (m) => (
      <Link className="link text-[15px]" href={`/school/staff/${m.id}`}>
        {m.name}
      </Link>
    ),
  },
  { id: 'username', title: 'User name', value: (m) => m.username, cell: (m) => m.username },
  {
    id: 'roles',
    title: 'Roles',
    value: (m) => roleWords(m.roles),
    choices: (m) => m.roles.map((role) => roleWords([role])),
    cell: (m) => roleWords(m.roles),
  },
  { id: 'homerooms', title: 'Homeroom', value: (m) => m.homerooms, cell: (m) => m.homerooms },
  { id: 'classes', title: 'Classes', align: 'right', value: (m) => m.classes, cell: (m) => m.classes },
  {
    id: 'state',
    title: 'Account',
    value: stateOf,
    choices: (m) => [stateOf(m)],
    cell: (m) => <span className={m.active ? '' : 'text-port'}>{stateOf(m)}</span>,
  },
]

/** Everyone who works at the school, with roles, what they teach on the chosen date, and the state of their account. */
export function StaffList({ initial, date }: { initial: QueryOutput<'staffing.list'>; date: string }) {
  const [staff, refresh] = useLive('staffing.list', { date }, initial)
  const { actor } = useSchool()
  const view = useTableAddress()
  const [adding, setAdding] = useState(false)
  const administrators = staff.filter((m) => m.active && m.roles.includes('administrator')).length
  return (
    <div className="sheet print-wide">
      <PageHead
        title="Staff accounts"
        detail={`${staff.filter((m) => m.active).length} active; homerooms and classes on ${shortDate(date)}`}
        act={
          hasSome(actor.roles, 'administrator') && (
            <Button onClick={() => setAdding(true)}>Add a member of staff</Button>
          )
        }
      />
      {administrators === 1 && (
        <p className="hint mb-3">
          There is only one administrator. Give someone else the role as well, so that a forgotten password
          locks nobody out.
        </p>
      )}
      <DataTable
        label="Staff accounts"
        download={`staff ${date}`}
        rows={staff}
        columns={columns}
        rowKey={(m) => m.id}
        rowClass={(m) => (m.active ? '' : 'text-muted')}
        view={view}
        filter={{
          label: 'Name, user name or role',
          rank: (m, text) =>
            matchRank(`${m.name} ${m.username ?? ''} ${m.roles.join(' ')} ${m.homerooms ?? ''}`, text),
          none: 'No matches. Try part of a name.',
        }}
        empty={<p>No members of staff yet.</p>}
      />
      {adding && <AddStaff onClose={() => setAdding(false)} onSaved={() => void refresh()} />}
    </div>
  )
}
