'use client'
import { useState, type FormEvent } from 'react'
import { correctedSessions } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import type { CommandInput, QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { ChoiceGroup } from '@/ui/choice-group'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, Select, TextInput, Tick } from '@/ui/field'
import { DateInput } from '@/screen/date-input'
import { Discard } from '@/screen/form/dialog-form'
import { useClosing } from '@/screen/form/use-closing'
import { PreviewDialog } from '@/screen/preview-dialog'
import type { Student } from './corrections'

type Input = CommandInput<'attendance.correct'>

const existing = ['keep', 'replace'] as const
const existingWords = { keep: 'Keep them', replace: 'Replace them' } as const

/** What the students chosen were, from when to when; then exactly which marks that enters or changes. */
export function CorrectDialog({
  students,
  codes,
  date,
  onClose,
  onDone,
}: {
  students: readonly Student[]
  codes: QueryOutput<'attendance.correctable'>['codes']
  date: string
  onClose: () => void
  onDone: (words: string, run: string | undefined) => void
}) {
  const [start] = useState({
    firstDay: date,
    lastDay: date,
    sessions: [...correctedSessions] as (typeof correctedSessions)[number][],
    codeId: '',
    note: '',
    reason: '',
    replace: false,
  })
  const [typed, setTyped] = useState(start)
  const closing = useClosing({
    isTyped: JSON.stringify(typed) !== JSON.stringify(start),
    busy: false,
    onClose,
  })
  const [problems, setProblems] = useState<Readonly<Record<string, string>>>({})
  const [asked, setAsked] = useState<Input>()
  const set = (part: Partial<typeof typed>) => {
    setTyped({ ...typed, ...part })
    setProblems({})
  }
  const howMany = students.length === 1 ? (students[0]?.name ?? '') : `${students.length} students`
  async function proceed(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const form = event.currentTarget
    const { correctionInput } = await import('@/core/attendance/inputs')
    const read = correctionInput.safeParse({ ...typed, studentIds: students.map((s) => s.id) })
    if (read.success) return setAsked(read.data)
    setProblems(Object.fromEntries(read.error.issues.map((issue) => [String(issue.path[0]), issue.message])))
    requestAnimationFrame(() => form.querySelector<HTMLElement>('[aria-invalid]')?.focus())
  }
  const code = codes.find((c) => c.id === typed.codeId)
  if (asked)
    return (
      <PreviewDialog
        command="attendance.correct"
        input={asked}
        title={`${code?.code} for ${howMany}`}
        description={`${shortDate(asked.firstDay)}${asked.lastDay === asked.firstDay ? '' : ` to ${shortDate(asked.lastDay)}`}, ${asked.sessions.join(', ')}. Existing marks are ${asked.replace ? 'replaced' : 'kept'}. Days on which a student is in no homeroom are left out.`}
        unchanged={
          asked.replace
            ? 'Nothing would change: these students have this mark already, or have no session on these days.'
            : 'Nothing would change: these students have marks already, or have no session on these days. To change existing marks, choose Replace them.'
        }
        act="Enter these marks"
        onClose={() => setAsked(undefined)}
        onDone={({ changed, kept }, run) =>
          onDone(
            `${changed === 1 ? '1 mark' : `${changed} marks`} entered as ${code?.code}${kept > 0 ? `, ${kept} kept as they were` : ''}.`,
            run,
          )
        }
      />
    )
  return (
    <Dialog title={`Enter marks for ${howMany}`} onClose={closing.close}>
      <form method="post" noValidate className="grid gap-4" onSubmit={(e) => void proceed(e)}>
        {problems.studentIds && <Problem>{problems.studentIds}</Problem>}
        <div className="grid gap-4 sm:grid-cols-2">
          <Field label="First day" problem={problems.firstDay}>
            {(field) => (
              <DateInput {...field} value={typed.firstDay} onChange={(firstDay) => set({ firstDay })} />
            )}
          </Field>
          <Field label="Last day" problem={problems.lastDay}>
            {(field) => (
              <DateInput {...field} value={typed.lastDay} onChange={(lastDay) => set({ lastDay })} />
            )}
          </Field>
        </div>
        <fieldset>
          <legend className="text-[13px] font-bold">Sessions</legend>
          <div className="flex gap-5">
            {correctedSessions.map((session) => (
              <Tick
                key={session}
                label={session === 'lessons' ? 'lessons that are marked' : session}
                checked={typed.sessions.includes(session)}
                onChange={(e) =>
                  set({
                    sessions: correctedSessions.filter((s) =>
                      s === session ? e.target.checked : typed.sessions.includes(s),
                    ),
                  })
                }
              />
            ))}
          </div>
          {problems.sessions && <p className="text-[13px] text-port">▲ {problems.sessions}</p>}
        </fieldset>
        <Field label="Code" problem={problems.codeId}>
          {(field) => (
            <Select {...field} value={typed.codeId} onChange={(e) => set({ codeId: e.target.value })}>
              <option value="">Choose a code</option>
              {codes.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.code} {c.label}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <div className="grid gap-1">
          <span className="text-[13px] font-bold">Marks that exist already</span>
          <ChoiceGroup
            label="Marks that exist already"
            choices={existing}
            value={typed.replace ? 'replace' : 'keep'}
            onChange={(next) => set({ replace: next === 'replace' })}
          >
            {(choice) => existingWords[choice]}
          </ChoiceGroup>
        </div>
        <Field label="Reason" help="Kept with each mark and in its history" problem={problems.reason}>
          {(field) => (
            <TextInput
              {...field}
              placeholder="The ferry did not run"
              value={typed.reason}
              onChange={(e) => set({ reason: e.target.value })}
            />
          )}
        </Field>
        <Field label="Note" need="optional" help="Replaces notes that exist" problem={problems.note}>
          {(field) => (
            <TextInput {...field} value={typed.note} onChange={(e) => set({ note: e.target.value })} />
          )}
        </Field>
        {closing.asks ? (
          <Discard onDiscard={onClose} onGoOn={closing.goOn} />
        ) : (
          <p className="flex gap-3">
            <Button type="submit">Continue</Button>
            <Button kind="plain" onClick={closing.close}>
              Cancel
            </Button>
          </p>
        )}
      </form>
    </Dialog>
  )
}
