'use client'
import { useState } from 'react'
import { spokenName } from '@/core/people/names'
import { roleWords } from '@/core/people/roles'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { EditField } from '@/screen/record/edit-field'
import { useFields } from '@/screen/record/use-fields'
import { useSchool } from '@/screen/school-context'
import { newKey, sendCommand } from '@/screen/server'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { shortDate } from '@/core/calendar/date-words'
import { RoleTicks } from '@/app/(school)/school/staff/role-ticks'
import type { Member } from './member'

const NewPassword = later(() => import('./new-password').then((m) => m.NewPassword))
const MemberSessions = later(() => import('./member-sessions').then((m) => m.MemberSessions))
const Deactivate = later(() => import('./deactivate').then((m) => m.Deactivate))

const labels = {
  givenName: 'Given name',
  familyName: 'Family name',
  phone: 'Telephone',
  email: 'E-mail',
} as const

const schemas = () => import('@/core/people/inputs').then((m) => m.staffFields)

/** The roles of an account: each tick is saved at once. */
function Roles({ m, onSaved }: { m: Member; onSaved: () => Promise<void> }) {
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  if (!m.account) return null
  if (!m.mayChange) return <p>{roleWords(m.account.roles)}</p>
  return (
    <div aria-busy={busy}>
      <RoleTicks
        chosen={m.account.roles}
        problem={problem}
        onChange={async (roles) => {
          if (busy) return
          setBusy(true)
          const result = await sendCommand(
            'staff.setRoles',
            { staffId: m.id, expectedVersion: m.version, roles },
            newKey(),
          )
          setProblem(
            result.ok
              ? undefined
              : result.failure.kind === 'invalid'
                ? result.failure.fields[0]?.message
                : result.failure.message,
          )
          await onSaved()
          setBusy(false)
        }}
      />
    </div>
  )
}

/** A member of staff: record edited in place, roles, account, and what they are responsible for. */
export function MemberPage({ initial }: { initial: Member }) {
  const [m, refresh] = useLive('staffing.member', { staffId: initial.id }, initial)
  const { today } = useSchool()
  const undoable = useUndoable(refresh)
  const [dialog, setDialog] = useState<'password' | 'deactivate' | 'sessions'>()
  const name = spokenName(m.name)
  const of = useFields(
    {
      command: 'staff.setMember',
      id: m.id,
      input: { staffId: m.id },
      place: { name: `${name}, staff account`, href: `/school/staff/${m.id}` },
      schemas,
    },
    { values: m.fields, versions: m.versions },
    refresh,
  )
  async function reactivate() {
    const result = await sendCommand(
      'staff.reactivate',
      { staffId: m.id, expectedVersion: m.version },
      newKey(),
    )
    if (result.ok)
      undoable.done(
        `${name} can sign in, with the password from before. Homerooms and classes that were given up are not given back: choose them under School, Structure.`,
      )
    else undoable.warn(result.failure.message)
    void refresh()
  }
  const field = (key: keyof typeof labels, className?: string) => (
    <EditField of={of} name={key} label={labels[key]} open={m.mayChange} className={className} />
  )
  const { account } = m
  return (
    <div className="sheet reading" onKeyDown={of.onKeyDown}>
      <PageHead
        title={name}
        detail={
          account
            ? account.active
              ? `User name ${account.username}${m.lastDay ? `, leaves after ${shortDate(m.lastDay, true)}` : ''}`
              : `User name ${account.username}, deactivated`
            : 'No account'
        }
        saves={m.mayChange}
        act={
          m.mayChange &&
          account &&
          (account.active ? (
            <>
              {m.lastDay ? (
                <Button kind="plain" onClick={() => void reactivate()}>
                  Stays after all
                </Button>
              ) : (
                <Button kind="plain" onClick={() => setDialog('deactivate')}>
                  Deactivate
                </Button>
              )}
              <Button kind="plain" onClick={() => setDialog('password')}>
                New password
              </Button>
            </>
          ) : (
            <Button onClick={() => void reactivate()}>Reactivate</Button>
          ))
        }
      >
        <p className="mt-2">
          <Link className="link" href="/school/staff">
            All staff accounts
          </Link>
        </p>
      </PageHead>
      <UndoableMessage of={undoable} />
      <div className="grid gap-8 md:grid-cols-2">
        <section aria-labelledby="details">
          <h2 id="details" className="mb-2 border-b border-ink pb-1">
            Details
          </h2>
          <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2">
            {field('givenName')}
            {field('familyName')}
            {field('phone')}
            {field('email', 'sm:col-span-2')}
          </div>
          <p className="mt-2 text-[13px] text-muted">The e-mail address can also be used to sign in.</p>
        </section>
        <section aria-labelledby="account">
          <h2 id="account" className="mb-2 border-b border-ink pb-1">
            Account
          </h2>
          {account?.mustChangePassword && account.active && (
            <p className="mb-2 text-muted">The initial password has not been changed yet.</p>
          )}
          <Roles m={m} onSaved={refresh} />
          {account?.active && m.mayChange && (
            <p className="mt-3">
              <button type="button" className="link" onClick={() => setDialog('sessions')}>
                Where they are signed in
              </button>
            </p>
          )}
        </section>
      </div>
      <section className="mt-8">
        <h2 className="mb-1">Responsible for</h2>
        {m.responsible.length === 0 ? (
          <p className="text-muted">No homeroom and no classes today or later.</p>
        ) : (
          <ul className="flex flex-wrap gap-x-5 gap-y-1">
            {m.responsible.map((d) => (
              <li key={d.kind + d.id}>
                {d.name}
                {d.kind === 'homeroom' && ', homeroom'}
              </li>
            ))}
          </ul>
        )}
      </section>
      {dialog === 'password' && (
        <NewPassword m={m} onClose={() => setDialog(undefined)} onSaved={() => void refresh()} />
      )}
      {dialog === 'sessions' && <MemberSessions m={m} onClose={() => setDialog(undefined)} />}
      {dialog === 'deactivate' && (
        <Deactivate
          m={m}
          today={today}
          onClose={() => setDialog(undefined)}
          onSaved={(run, atOnce) => {
            setDialog(undefined)
            undoable.done(
              atOnce ? `${name} can no longer sign in.` : `${name} works here until the last day.`,
              run,
            )
            void refresh()
          }}
        />
      )}
    </div>
  )
}
