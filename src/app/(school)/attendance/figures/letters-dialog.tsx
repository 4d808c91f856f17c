'use client'
import { useState } from 'react'
import type { QueryInput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, Select, Tick } from '@/ui/field'
import Link from '@/screen/link'
import { newKey, sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'

/** Who is left out of letters, and why. */
function LeftOut({ words, names }: { words: string; names: readonly string[] }) {
  if (names.length === 0) return null
  return (
    <p>
      {words}: {names.slice(0, 6).join(', ')}
      {names.length > 6 && ` and ${names.length - 6} more`}.
    </p>
  )
}

type Counted = Pick<QueryInput<'attendance.lettersToSend'>, 'from' | 'date' | 'sessions' | 'classId'>

/** Letters to the guardians of the students chosen: which template, whom they reach, how the first one reads. */
export function LettersDialog({
  studentIds,
  counted,
  onClose,
  onSent,
}: {
  studentIds: readonly string[]
  /** What the figures in the letters count. */
  counted: Counted
  onClose: () => void
  onSent: (words: string) => void
}) {
  const [templateId, setTemplateId] = useState<string>()
  const [again, setAgain] = useState(false)
  const [aboveToo, setAboveToo] = useState(false)
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const [key, setKey] = useState(newKey)
  const all = useAnswer('attendance.letters', {})
  const templates = all.answer?.templates ?? []
  const template = templates.find((t) => t.id === templateId) ?? templates[0]
  const input = template && {
    templateId: template.id,
    expectedVersion: template.version,
    studentIds: [...studentIds],
    ...counted,
    again,
    aboveToo,
  }
  const { answer: shown, problem: unread } = useAnswer('attendance.lettersToSend', input, { keep: true })
  async function send() {
    if (!input) return
    setBusy(true)
    setProblem(undefined)
    const result = await sendCommand('attendance.sendLetters', input, key)
    setBusy(false)
    if (result.ok)
      return onSent(result.value.sent === 1 ? '1 letter sent.' : `${result.value.sent} letters sent.`)
    setProblem(result.failure.message)
    if (result.failure.kind !== 'unavailable') setKey(newKey())
  }
  if (all.answer && templates.length === 0)
    return (
      <Dialog title="Write letters" onClose={onClose}>
        <p>
          There is no template yet.{' '}
          <Link className="link" href="/attendance/letters">
            Add one under Letters
          </Link>
          .
        </p>
      </Dialog>
    )
  return (
    <Dialog title="Write letters" onClose={onClose} wide>
      <div className="grid gap-4">
        {(problem ?? unread ?? all.problem) && <Problem>{problem ?? unread ?? all.problem}</Problem>}
        <Field label="Template">
          {(field) => (
            <Select {...field} value={template?.id ?? ''} onChange={(e) => setTemplateId(e.target.value)}>
              {templates.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <div role="status" className="grid gap-1">
          {shown ? (
            <>
              <p>
                <strong>{shown.reached === 1 ? '1 letter' : `${shown.reached} letters`}</strong> to guardians
                of {shown.students === 1 ? '1 student' : `${shown.students} students`}, by e-mail.
              </p>
              <LeftOut words="Without an e-mail address" names={shown.withoutAddress} />
              <LeftOut
                words={
                  again
                    ? 'Written to in the last 14 days, and now again'
                    : 'Left out, written to in the last 14 days'
                }
                names={shown.lately}
              />
            </>
          ) : (
            <p className="text-muted">Working out whom the letters reach</p>
          )}
        </div>
        {shown && shown.lately.length > 0 && (
          <Tick
            label="Write again to those written to lately"
            checked={again}
            onChange={(e) => setAgain(e.target.checked)}
          />
        )}
        {shown && shown.above.length > 0 && (
          <div className="hint grid gap-1">
            <LeftOut words="Not below the school's attendance threshold" names={shown.above} />
            <Tick
              label="Write about these students too"
              checked={aboveToo}
              onChange={(e) => setAboveToo(e.target.checked)}
            />
          </div>
        )}
        {shown?.first && (
          <section aria-label="The first letter" className="border border-rule bg-panel p-4">
            <p className="text-muted">
              To {shown.first.to}: <strong>{shown.first.subject}</strong>
            </p>
            <p className="mt-2 max-h-60 overflow-auto whitespace-pre-wrap" tabIndex={0}>
              {shown.first.body}
            </p>
          </section>
        )}
        <p className="flex gap-3">
          <Button busy={busy} disabled={!shown || shown.reached === 0} onClick={() => void send()}>
            Send
          </Button>
          <Button kind="plain" onClick={onClose}>
            Cancel
          </Button>
        </p>
      </div>
    </Dialog>
  )
}
