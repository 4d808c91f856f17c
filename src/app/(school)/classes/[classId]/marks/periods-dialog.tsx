'use client'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { periodKey, type MarksPeriod } from '@/core/marks/periods/state'
import { spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, Select, TextInput } from '@/ui/field'
import { useClock } from '@/screen/clock'
import { useDialogAct } from '@/screen/form/dialog-act'
import { sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'
import { MarksStateMark } from '@/app/(school)/reports/marks-state'
import type { GradebookAnswer } from './book'
import { HeldWork } from './held-work'

type Period = GradebookAnswer['periods'][number]
type Values = QueryOutput<'marks.periodMarks'>

/** Marks of one class by part of the year: what would be confirmed, what is, and what has changed since. */
export function PeriodsDialog({
  classId,
  gradebook,
  refresh,
  onClose,
}: {
  classId: string
  gradebook: GradebookAnswer
  refresh: () => Promise<unknown>
  onClose: () => void
}) {
  const { periods, term } = gradebook
  const [key, setKey] = useState(periodKey({ termId: term.id, periodId: null }))
  const chosen = periods.find((p) => periodKey(p) === key)
  return (
    <Dialog
      title="Confirmed marks"
      description="Confirmed marks are held: reports show them, and what the gradebook says later is shown beside them. Closed marks lock what they rest on."
      onClose={onClose}
      wide
    >
      {periods.length > 1 && (
        <Field label="Part of the year">
          {(field) => (
            <Select {...field} className="max-w-80" value={key} onChange={(e) => setKey(e.target.value)}>
              {periods.map((p) => (
                <option key={periodKey(p)} value={periodKey(p)}>
                  {p.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
      )}
      {chosen && (
        <OnePeriod key={key} classId={classId} period={chosen} gradebook={gradebook} refresh={refresh} />
      )}
    </Dialog>
  )
}

const shown = ({ mark, grade }: { mark: string | null; grade: string | null }) =>
  [mark, grade].filter((v) => v !== null).join(' ') || 'nothing yet'

function OnePeriod({
  classId,
  period,
  gradebook,
  refresh,
}: {
  classId: string
  period: Period
  gradebook: GradebookAnswer
  refresh: () => Promise<unknown>
}) {
  const { moment } = useClock()
  const { termId, periodId, state, changedBy, changedAt, reason } = period
  const { answer, problem } = useAnswer('marks.periodMarks', { classId, period: { termId, periodId } })
  const client = useQueryClient()
  // The gradebook behind follows what others change, and this with it.
  useEffect(() => void client.invalidateQueries({ queryKey: ['marks.periodMarks'] }), [client, gradebook])
  return (
    <div className="mt-4 grid gap-3">
      <p className="flex flex-wrap items-center gap-x-4">
        <MarksStateMark state={state} />
        {changedBy && changedAt && (
          <span className="text-[13px] text-muted">
            {changedBy}, {moment(changedAt)}
          </span>
        )}
        {reason && <span className="text-[13px]">Reopened: {reason}</span>}
      </p>
      {problem && <Problem>{problem}</Problem>}
      {!answer && !problem && <p className="text-muted">Loading.</p>}
      {answer && (
        <ValueTable classId={classId} period={{ termId, periodId }} of={answer} isHeld={state !== 'open'} />
      )}
      {answer && (
        <Acts
          key={`${state} ${period.version}`}
          classId={classId}
          period={period}
          gradebook={gradebook}
          refresh={refresh}
          of={answer}
        />
      )}
    </div>
  )
}

/** Every student with what is held, or would be; where the gradebook says otherwise by now, both. */
function ValueTable({
  classId,
  period,
  of,
  isHeld,
}: {
  classId: string
  period: MarksPeriod
  of: Values
  isHeld: boolean
}) {
  const [opened, setOpened] = useState<string>()
  const differs = (v: Values['students'][number]['values'][number]) =>
    v.held !== null && shown(v.held) !== shown(v.now)
  const changed = of.students.filter((s) => s.values.some(differs)).length
  const [all, setAll] = useState(false)
  const rows = isHeld && !all ? of.students.filter((s) => s.values.some(differs)) : of.students
  return (
    <div className="grid gap-2">
      {isHeld && (
        <p role="status">
          {changed === 0
            ? 'The gradebook says the same now.'
            : `The gradebook says something else by now for ${changed === 1 ? '1 student' : `${changed} students`}.`}{' '}
          {changed < of.students.length && (
            <Button kind="quiet" onClick={() => setAll(!all)}>
              {all ? 'Show only what has changed' : 'Show all'}
            </Button>
          )}
        </p>
      )}
      {rows.length > 0 && (
        <ul aria-label="Marks" className="max-h-72 overflow-auto border-y border-rule" tabIndex={0}>
          {rows.map((s) => (
            <li
              key={s.studentId}
              className="flex flex-wrap gap-x-4 border-b border-rule py-1 last:border-b-0"
            >
              <span className="min-w-48 flex-1 font-bold">{s.name}</span>
              {s.values.map((v, i) => (
                <span key={of.sources[i]?.source} className="min-w-28">
                  {of.sources.length > 1 && (
                    <span className="text-[12px] text-muted">{of.sources[i]?.name} </span>
                  )}
                  {v.held && differs(v) ? (
                    <>
                      {shown(v.held)}, <span className="text-ochre">now {shown(v.now)}</span>
                    </>
                  ) : (
                    shown(v.now)
                  )}
                </span>
              ))}
              {isHeld && (
                <Button
                  kind="quiet"
                  aria-expanded={opened === s.studentId}
                  onClick={() => setOpened(opened === s.studentId ? undefined : s.studentId)}
                >
                  How<span className="sr-only"> the marks of {spokenName(s.name)} were worked out</span>
                </Button>
              )}
              {opened === s.studentId && (
                <HeldWork
                  classId={classId}
                  period={period}
                  studentId={s.studentId}
                  nameOf={(source) => of.sources.find((one) => one.source === source)?.name ?? ''}
                />
              )}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

/** What can be done with the marks of the part of the year, by whoever looks. */
function Acts({
  classId,
  period,
  gradebook: { mayEdit, mayClose, mayReopen },
  refresh,
  of,
}: {
  classId: string
  period: Period
  gradebook: GradebookAnswer
  refresh: () => Promise<unknown>
  of: Values
}) {
  const { termId, periodId, state, version } = period
  const asked = { classId, period: { termId, periodId }, expectedVersion: version }
  const [reason, setReason] = useState('')
  const done = () => void refresh()
  const confirming = useDialogAct(
    (key) => sendCommand('marks.confirmMarks', { ...asked, withBlanks: true }, key),
    done,
  )
  const takingBack = useDialogAct((key) => sendCommand('marks.takeBackMarks', asked, key), done)
  const closing = useDialogAct(
    (key) =>
      sendCommand(
        'marks.closeMarks',
        { period: asked.period, targets: [{ classId, expectedVersion: version }] },
        key,
      ),
    done,
  )
  const reopening = useDialogAct((key) => sendCommand('marks.reopenMarks', { ...asked, reason }, key), done)
  const at = of.sources.findIndex((s) => s.source === 'mark')
  const blank = at < 0 ? [] : of.students.filter((s) => s.values[at]?.now.mark === null)
  const problem = confirming.problem ?? takingBack.problem ?? closing.problem ?? reopening.problem
  if (of.sources.length === 0)
    return <p>Nothing is marked here yet: no column belongs to the whole year. Add one in the gradebook.</p>
  return (
    <div className="grid gap-3">
      {problem && <Problem>{problem}</Problem>}
      {mayEdit && state !== 'closed' && blank.length > 0 && (
        <p className="hint">
          Without a mark: {blank.map((s) => spokenName(s.name)).join(', ')}. Confirmed as it is, they stay
          blank.
        </p>
      )}
      <div className="flex flex-wrap items-end gap-3">
        {mayEdit && state === 'open' && (
          <Button busy={confirming.busy} onClick={() => void confirming.run()}>
            Confirm marks
          </Button>
        )}
        {mayClose && state === 'confirmed' && (
          <Button busy={closing.busy} onClick={() => void closing.run()}>
            Close marks
          </Button>
        )}
        {mayEdit && state === 'confirmed' && (
          <>
            <Button kind="plain" busy={confirming.busy} onClick={() => void confirming.run()}>
              Confirm again as they are now
            </Button>
            <Button kind="plain" busy={takingBack.busy} onClick={() => void takingBack.run()}>
              Take back
            </Button>
          </>
        )}
        {mayReopen && state === 'closed' && (
          <>
            <Field label="Why they are reopened" className="min-w-64 flex-1">
              {(field) => (
                <TextInput
                  {...field}
                  value={reason}
                  maxLength={1000}
                  onChange={(e) => setReason(e.target.value)}
                />
              )}
            </Field>
            <Button
              disabled={reason.trim() === ''}
              busy={reopening.busy}
              onClick={() => void reopening.run()}
            >
              Reopen marks
            </Button>
          </>
        )}
        {state === 'closed' && !mayReopen && (
          <span className="text-muted">The head or the office can reopen them.</span>
        )}
      </div>
    </div>
  )
}
