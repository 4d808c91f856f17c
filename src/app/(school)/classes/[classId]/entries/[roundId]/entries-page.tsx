'use client'
import { useState, type KeyboardEvent } from 'react'
import { blanksIn, isWritable, noEntry, type WrittenEntry } from '@/core/reports/entries'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { useRowFocus } from '@/ui/grid/use-row-focus'
import { classPages } from '@/screen/class-pages'
import { ConflictNotice, NoticesInView, NotSavedNotice } from '@/screen/conflict-notice'
import { useKeys, type KeyGroup } from '@/screen/keys'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useOutboxState } from '@/screen/saving'
import { useSchool } from '@/screen/school-context'
import { newKey, sendCommand } from '@/screen/server'
import { useNarrow } from '@/screen/use-media'
import { contested } from '@/screen/use-recorded'
import { EntriesStateMark } from '@/app/(school)/reports/entries-state'
import { MarksStateMark } from '@/app/(school)/reports/marks-state'
import { CheckBar } from './check-bar'
import { EntryRow } from './entry-row'
import { FillBlank } from './fill-blank'
import { useEntries, type Entries, type OpenEntries } from './use-entries'

const keys: KeyGroup = {
  title: 'Report entries',
  keys: [
    ['Ctrl ↓, Ctrl ↑', 'Go to the next or previous student’s comment'],
    ['1 to 4', 'On the effort buttons: excellent, good, uneven, low'],
  ],
}

function Conflicts({ entries: e }: { entries: OpenEntries }) {
  const words = ({ effort, comment }: WrittenEntry) =>
    `${effort ?? 'no effort grade'}, ${comment || 'no comment'}`
  return e.rejectedEdits.flatMap((rejected) =>
    rejected.reason === 'conflict' ? (
      contested(e.recorded, rejected, noEntry).map((c) => (
        <ConflictNotice key={rejected.edit.id + c.record} onResolve={(keep) => e.resolve(rejected, keep)}>
          <strong>
            {spokenName(e.rows.find((r) => r.studentId === c.record.split(' ').at(-1))?.name ?? '')}
          </strong>
          : {c.by} changed this entry while you were editing it. Their version has been kept.
          <br />
          <strong>Theirs:</strong> {words(c.theirs)}
          <br />
          <strong>Yours:</strong> {words(c.mine)}
        </ConflictNotice>
      ))
    ) : (
      <NotSavedNotice
        key={rejected.edit.id}
        label={rejected.edit.label}
        message={rejected.message}
        onResolve={(keep) => e.resolve(rejected, keep)}
      />
    ),
  )
}

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
  // On a phone one student at a time.
  const isNarrow = useNarrow()
  const [chosen, setAt] = useState(0)
  const at = Math.min(chosen, Math.max(0, rows.length - 1))
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  const place = useSchool()
  const comments = useRowFocus<HTMLTextAreaElement>(rows.map((r) => r.studentId))
  const outbox = useOutboxState()
  const writable = server.mayWrite && isWritable(server.state)
  const blanks = blanksIn(rows)
  const over = rows.filter((r) => r.comment.length > server.round.commentLimit)
  useKeys(keys)

  async function act(name: 'reports.handIn' | 'reports.takeBack') {
    setBusy(true)
    const asked = { ...input, expectedVersion: server.version }
    const result =
      name === 'reports.handIn'
        ? await sendCommand(name, { ...asked, withBlanks: true }, newKey())
        : await sendCommand(name, asked, newKey())
    setBusy(false)
    setHanding(false)
    setProblem(result.ok ? undefined : result.failure.message)
    void e.refresh()
  }
  function onKeyDown(event: KeyboardEvent) {
    if (!event.ctrlKey || (event.key !== 'ArrowDown' && event.key !== 'ArrowUp')) return
    if (comments.step(event.key === 'ArrowDown' ? 1 : -1)) event.preventDefault()
  }
  const here = (edit: { scope: string }) => edit.scope === e.scope
  const unsaved = outbox.waiting.some(here) || e.unsent
  return (
    <div className="sheet" onKeyDown={onKeyDown}>
      <PageHead
        title={server.class.name}
        page="Report entries"
        pages={classPages(place, input.classId, input.roundId)}
        detail={`${server.round.name}, due ${shortDate(server.round.dueOn)}`}
        saves={writable}
      >
        <p className="mt-3 flex flex-wrap items-center gap-4">
          <EntriesStateMark state={server.state} />
          {server.changedBy && <span className="text-muted">{server.changedBy}</span>}
          <MarksStateMark state={server.marks.state} />
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
      {problem && (
        <div className="mb-3">
          <Problem>{problem}</Problem>
        </div>
      )}
      {server.marks.unfed.length > 0 && (
        <p className="hint mb-3">
          Nothing fills {server.marks.unfed.join(' and ')} in this class yet.{' '}
          <Link className="link" href={`/reports/${input.roundId}/feeds`}>
            Choose columns of the gradebook
          </Link>
        </p>
      )}
      <NoticesInView>
        <Conflicts entries={e} />
      </NoticesInView>
      {writable && rows.length > 0 && <FillBlank entries={e} input={input} />}
      {server.mayCheck && (
        <CheckBar input={input} server={server} blanks={blanks} onDone={() => void e.refresh()} />
      )}
      {rows.length === 0 && <p>No students are in this class.</p>}
      <ol>
        {rows.map((row, i) => (
          <EntryRow
            key={row.studentId}
            row={row}
            index={i}
            writable={writable}
            limit={server.round.commentLimit}
            marks={`/classes/${server.class.id}/marks?student=${row.studentId}${server.round.readOn ? `&date=${server.round.readOn}` : ''}`}
            commentRef={comments.fieldOf(row.studentId)}
            onWrite={(entry, atOnce) => e.write(row.studentId, entry, { atOnce })}
            onLeave={() => e.leave(row.studentId)}
            isRejected={isNarrow && i !== at}
          />
        ))}
      </ol>
      {isNarrow && rows.length > 1 && (
        <p className="mt-3 flex items-center gap-3 no-print">
          <Button kind="plain" disabled={at === 0} onClick={() => setAt(at - 1)}>
            Previous
          </Button>
          <span className="flex-1 text-center text-muted">
            {at + 1} of {rows.length}
          </span>
          <Button kind="plain" disabled={at === rows.length - 1} onClick={() => setAt(at + 1)}>
            Next
          </Button>
        </p>
      )}
      {server.mayWrite && (
        <footer className="sticky bottom-0 mt-4 flex flex-wrap items-center gap-4 border-t border-ink bg-paper py-3 no-print">
          {writable ? (
            <>
              <Button
                disabled={over.length > 0 || unsaved || e.rejectedEdits.length > 0}
                onClick={() => (blanks.length > 0 ? setHanding(true) : void act('reports.handIn'))}
                busy={busy}
              >
                Hand in
              </Button>
              <span role="status" className="text-muted">
                {over.length > 0
                  ? `Too long for the card: ${over.map((r) => spokenName(r.name)).join(', ')}.`
                  : e.rejectedEdits.length > 0
                    ? 'Some entries are not saved. See the messages above.'
                    : unsaved
                      ? 'Saving'
                      : blanks.length === 0
                        ? 'All entries are complete.'
                        : `${blanks.length} of ${rows.length} entries are not complete.`}
              </span>
            </>
          ) : server.state === 'handed in' ? (
            <>
              <Button kind="plain" busy={busy} onClick={() => void act('reports.takeBack')}>
                Take back to edit
              </Button>
              <span className="text-muted">
                The head checks these entries next. Their marks are confirmed, and stay as they are.
              </span>
            </>
          ) : (
            <span className="text-muted">
              {server.state === 'checked'
                ? 'The head has checked these entries. To change something, ask the head to send them back.'
                : 'These entries are on released cards. To correct something, ask the head to send them back.'}
            </span>
          )}
        </footer>
      )}
      {handing && (
        <Dialog
          title="Some entries are not complete"
          description="What is not entered stays blank on the card. You can go back and complete it, or hand in as it is."
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
                const place = rows.findIndex((r) => r.name === blanks[0]?.name)
                const first = rows[place]
                setAt(Math.max(0, place))
                // After the dialog has given the focus back.
                if (first) setTimeout(() => comments.focus(first.studentId), 50)
              }}
            >
              Go to the first
            </Button>
            <Button kind="plain" busy={busy} onClick={() => void act('reports.handIn')}>
              Hand in as it is
            </Button>
          </p>
        </Dialog>
      )}
    </div>
  )
}
