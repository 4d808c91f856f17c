'use client'
import { limits } from '@/core/limits'
import { ShownAtMost } from '@/screen/shown-at-most'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { FormDate, FormProblems, FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useClock } from '@/screen/clock'
import { MessageAtFoot, useMessage } from '@/screen/message'
import { PageHead } from '@/screen/page-head'
import { newKey, sendCommand } from '@/screen/server'
import { useLive } from '@/screen/use-live'

type Own = QueryOutput<'attendance.ownReports'>

const states = {
  waiting: 'waiting for the office',
  confirmed: 'confirmed, entered in the registers',
  declined: 'not accepted',
} as const

interface Values {
  studentId: string
  firstDay: string
  lastDay: string
  sessions: 'whole day' | 'morning' | 'afternoon'
  reason: string
}

/** Reports an absence of a child. */
function ReportForm({
  childrenOf,
  today,
  onSaved,
}: {
  childrenOf: Own['children']
  today: string
  onSaved: (words: string) => void
}) {
  const empty: Values = {
    studentId: childrenOf.length === 1 ? (childrenOf[0]?.id ?? '') : '',
    firstDay: today,
    lastDay: today,
    sessions: 'whole day',
    reason: '',
  }
  const of = useCommandForm('attendance.reportAbsence', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.absenceReportInput),
    values: empty,
    places: ['studentId', 'firstDay', 'lastDay', 'sessions', 'reason'],
    input: (v: Values) => v,
    onSaved: () => onSaved('Thank you. The office has your report and will confirm it.'),
  })
  return (
    <form method="post" onSubmit={of.submit} noValidate className="mb-8 grid max-w-xl gap-4">
      <FormProblems of={of} />
      {childrenOf.length === 1 && (
        <p>
          For <strong>{spokenName(childrenOf[0]?.name ?? '')}</strong>
        </p>
      )}
      {childrenOf.length > 1 && (
        <FormSelect of={of} name="studentId" label="Child">
          <option value="">Choose a child</option>
          {childrenOf.map((c) => (
            <option key={c.id} value={c.id}>
              {spokenName(c.name)}
            </option>
          ))}
        </FormSelect>
      )}
      <div className="grid gap-4 sm:grid-cols-3">
        <FormDate of={of} name="firstDay" label="First day" />
        <FormDate of={of} name="lastDay" label="Last day" />
        <FormSelect of={of} name="sessions" label="Part of the day">
          <option value="whole day">Whole day</option>
          <option value="morning">Morning</option>
          <option value="afternoon">Afternoon</option>
        </FormSelect>
      </div>
      <FormText of={of} name="reason" label="Reason" placeholder="Fever since last night" />
      <p>
        <Button type="submit" busy={of.busy}>
          Report the absence
        </Button>
      </p>
    </form>
  )
}

/** Where guardians report that a child will be absent, and read what the office says. */
export function AbsencesPage({ initial }: { initial: Own }) {
  const [{ children, reports }, refresh] = useLive('attendance.ownReports', {}, initial)
  const { message, say, warn } = useMessage()
  const { today } = useClock()
  const [round, setRound] = useState(0)
  async function withdraw(report: Own['reports'][number]) {
    const result = await sendCommand(
      'attendance.withdrawReport',
      { reportId: report.id, expectedVersion: report.version },
      newKey(),
    )
    if (result.ok) say('The report was withdrawn.')
    else warn(result.failure.message)
    await refresh()
  }
  return (
    <div className="sheet reading">
      <PageHead title="Absences" />
      <p className="mb-5 text-muted">
        Tell the school that your child will be absent. The office confirms it, and the teachers know before
        the lesson starts.
      </p>
      <MessageAtFoot {...message} onClose={() => say('')} />
      {children.length === 0 ? (
        <p>None of your children is enrolled at the moment.</p>
      ) : (
        <ReportForm
          key={round}
          childrenOf={children}
          today={today()}
          onSaved={(words) => {
            say(words)
            setRound(round + 1)
            void refresh()
          }}
        />
      )}
      <h2 className="mb-1">Reported so far</h2>
      {reports.length === 0 && <p className="text-muted">Nothing yet.</p>}
      <ul>
        {reports.map((r) => (
          <li key={r.id} className="flex flex-wrap items-baseline gap-x-4 border-t border-rule py-2">
            <strong>{spokenName(r.student)}</strong>
            <span>
              {shortDate(r.firstDay)}
              {r.lastDay !== r.firstDay && ` to ${shortDate(r.lastDay)}`}, {r.sessions}: {r.reason}
            </span>
            <span className={r.state === 'declined' ? 'text-port' : 'text-muted'}>
              {states[r.state]}
              {r.answer && `: ${r.answer}`}
            </span>
            {r.state === 'waiting' && (
              <Button kind="quiet" onClick={() => void withdraw(r)}>
                Withdraw<span className="sr-only"> the report of {spokenName(r.student)}</span>
              </Button>
            )}
          </li>
        ))}
      </ul>
      <ShownAtMost count={reports.length} most={limits.reportsShown} what="reports" />
    </div>
  )
}
