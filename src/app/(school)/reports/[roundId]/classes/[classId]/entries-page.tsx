'use client'
import Link from '@/screen/link'
import { useRef, useState, type KeyboardEvent } from 'react'
import { blanksIn, isWritable } from '@/core/reports/entries'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { ConflictNotice } from '@/screen/conflict-notice'
import { PageHead } from '@/screen/page-head'
import { useOutboxState } from '@/screen/saving'
import { tellServer } from '@/screen/server'
import { EntriesStateMark } from '@/app/(school)/reports/entries-state'
import { CheckBar } from './check-bar'
import { EntryRow } from './entry-row'
import { FillBlank } from './fill-blank'
import { useEntries, type Entries } from './use-entries'

/** One class's entries for a round: written by its teacher, read and checked by the head. */
export function EntriesPage({
  input,
  initial,
}: {
  input: { roundId: string; classId: string }
  initial: Entries
}) {
  const e = useEntries(input, initial)
  const { server, rows } = e
  const [handing, setHanding] = useState(false)
  const [busy, setBusy] = useState(false)
  const comments = useRef<(HTMLTextAreaElement | null)[]>([])
  const outbox = useOutboxState()
  const writable = server.mayWrite && isWritable(server.state)
  const blanks = blanksIn(rows)
  const over = rows.filter((r) => r.comment.length > server.round.commentLimit)

  async function act(name: 'reports.handIn' | 'reports.takeBack') {
    setBusy(true)
    const seen = server.version
    const result =
      name === 'reports.handIn'
        ? await tellServer(name, { ...input, seen, withBlanks: true })
        : await tellServer(name, { ...input, seen })
    setBusy(false)
    setHanding(false)
    e.setProblem(result.ok ? undefined : result.failure.message)
    void e.refresh()
  }
  function onKeyDown(event: KeyboardEvent) {
    if (!event.ctrlKey || (event.key !== 'ArrowDown' && event.key !== 'ArrowUp')) return
    const at = comments.current.findIndex((c) => c === document.activeElement)
    const next = comments.current[at + (event.key === 'ArrowDown' ? 1 : -1)]
    if (!next) return
    event.preventDefault()
    next.focus()
    next.scrollIntoView({ block: 'center' })
  }
  const unsaved = outbox.waiting.length > 0 || e.unsaved
  return (
    <div className="sheet max-w-5xl" onKeyDown={onKeyDown}>
      <PageHead
        title={`${server.class.name}, entries`}
        detail={`${server.round.name}, due ${shortDate(server.round.dueOn)}`}
        saves={writable}
      >
        <p className="mt-2 flex flex-wrap items-center gap-4">
          <EntriesStateMark state={server.state} />
          {server.changedBy && <span className="text-muted">{server.changedBy}</span>}
          <Link className="link" href={`/reports/${input.roundId}`}>
            All classes of the round
          </Link>
        </p>
      </PageHead>
      {server.state === 'sent back' && server.remark && (
        <p className="hint mb-3">
          <strong>Sent back by {server.changedBy}:</strong> {server.remark}
        </p>
      )}
      {e.problem && (
        <div className="mb-3">
          <Problem>{e.problem}</Problem>
        </div>
      )}
      {e.conflicts.map((c) => (
        <ConflictNotice key={c.editId} onResolve={(keep) => e.resolve(c, keep)}>
          <strong>{spokenName(rows.find((r) => r.studentId === c.studentId)?.name ?? '')}</strong>:{' '}
          {c.theirs.changedBy} changed this entry meanwhile. Theirs stands.
          <br />
          <strong>Theirs:</strong> {c.theirs.effort ?? 'no effort'}, {c.theirs.comment || 'no comment'}
          <br />
          <strong>Mine:</strong> {c.mine.effort ?? 'no effort'}, {c.mine.comment || 'no comment'}
        </ConflictNotice>
      ))}
      {writable && rows.length > 0 && (
        <FillBlank
          input={input}
          rows={rows}
          limit={server.round.commentLimit}
          onDone={() => void e.refresh()}
          onBefore={e.flush}
        />
      )}
      {server.mayCheck && (
        <CheckBar input={input} server={server} blanks={blanks} onDone={() => void e.refresh()} />
      )}
      {rows.length === 0 && <p>Nobody is in this class now.</p>}
      <ol>
        {rows.map((row, i) => (
          <EntryRow
            key={row.studentId}
            row={row}
            index={i}
            writable={writable}
            limit={server.round.commentLimit}
            gradebook={`/classes/${server.class.id}/gradebook?student=${row.studentId}${server.round.readOn ? `&date=${server.round.readOn}` : ''}`}
            commentRef={(node) => {
              comments.current[i] = node
            }}
            onWrite={(written, atOnce) => e.write(row.studentId, row.name, written, { atOnce })}
          />
        ))}
      </ol>
      {server.mayWrite && (
        <footer className="sticky bottom-0 mt-4 flex flex-wrap items-center gap-4 border-t border-ink bg-paper py-3 no-print">
          {writable ? (
            <>
              <Button
                disabled={over.length > 0 || unsaved}
                onClick={() => (blanks.length > 0 ? setHanding(true) : void act('reports.handIn'))}
                busy={busy}
              >
                Hand in
              </Button>
              <span role="status" className="text-muted">
                {over.length > 0
                  ? `Too long for the card: ${over.map((r) => spokenName(r.name)).join(', ')}.`
                  : unsaved
                    ? 'Saving first.'
                    : blanks.length === 0
                      ? 'Nothing is blank.'
                      : `${blanks.length} of ${rows.length} still have something blank.`}
              </span>
            </>
          ) : server.state === 'handed in' ? (
            <>
              <Button kind="plain" busy={busy} onClick={() => void act('reports.takeBack')}>
                Take back to change
              </Button>
              <span className="text-muted">
                The head reads it next. Marks are kept as they were when you handed in.
              </span>
            </>
          ) : (
            <span className="text-muted">
              {server.state === 'checked'
                ? 'The head has checked this. Ask for it to be sent back if something must change.'
                : 'On the released cards. A correction begins with the head sending it back.'}
            </span>
          )}
        </footer>
      )}
      {handing && (
        <Dialog
          title="Some entries are blank"
          description="A blank line stays blank on the card. You can go back and fill it, or hand in as it is."
          onClose={() => setHanding(false)}
        >
          <ul className="mb-4 max-h-64 overflow-auto">
            {blanks.map((b) => (
              <li key={b.name} className="flex justify-between border-b border-rule py-1">
                <strong>{spokenName(b.name)}</strong>
                <span className="text-muted">{b.blanks.join(', ')}</span>
              </li>
            ))}
          </ul>
          <p className="flex gap-3">
            <Button
              onClick={() => {
                setHanding(false)
                const at = rows.findIndex((r) => r.name === blanks[0]?.name)
                setTimeout(() => {
                  comments.current[at]?.focus()
                  comments.current[at]?.scrollIntoView({ block: 'center' })
                })
              }}
            >
              Go to the first blank
            </Button>
            <Button kind="plain" busy={busy} onClick={() => void act('reports.handIn')}>
              Hand in with blanks
            </Button>
          </p>
        </Dialog>
      )}
    </div>
  )
}
