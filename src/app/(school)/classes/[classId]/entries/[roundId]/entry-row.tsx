'use client'
import type { Ref } from 'react'
import { efforts, type Effort, type WrittenEntry } from '@/core/reports/entries'
import { ChoiceGroup } from '@/ui/choice-group'
import { TextArea } from '@/ui/field'
import Link from '@/screen/link'
import type { Entries } from './use-entries'

interface Props {
  readonly row: Entries['rows'][number] & WrittenEntry
  readonly index: number
  readonly writable: boolean
  readonly limit: number
  /** Where the mark is worked out. */
  readonly marks: string
  readonly commentRef: Ref<HTMLTextAreaElement>
  readonly onWrite: (entry: WrittenEntry, atOnce: boolean) => void
  readonly onLeave: () => void
  /** It is not the one that is shown, where there is room for one. */
  readonly isRejected: boolean
}

const notEntered = (
  <span className="text-muted">
    <span aria-hidden>–</span>
    <span className="sr-only">not entered</span>
  </span>
)

/** What the gradebook fills in: a mark that opens into how it is worked out, or a word. */
function FedLine({
  value: { name, mark, grade, now },
  isOnly,
  marks,
}: {
  value: Props['row']['values'][number]
  /** One line needs no name. */
  isOnly: boolean
  marks: string
}) {
  const held = mark ?? grade
  return (
    <p className="text-[15px]">
      {!isOnly && <span className="text-[12px] text-muted">{name} </span>}
      {held === undefined ? (
        <span className="text-muted">{isOnly ? 'no mark yet' : 'nothing yet'}</span>
      ) : (
        <Link href={marks} className="link" title="How this is worked out">
          <strong>{held}</strong> {mark === undefined ? '' : grade}
        </Link>
      )}
      {now !== undefined && (
        <span className="block text-[12px] text-ochre">
          now {now} in the gradebook; {held ?? 'nothing'} when it was confirmed
        </span>
      )}
    </p>
  )
}

/** One student's entry: the mark and grade from the gradebook, effort to choose, the comment with its limit in sight. */
export function EntryRow({
  row,
  index,
  writable,
  limit,
  marks,
  commentRef,
  onWrite,
  onLeave,
  isRejected,
}: Props) {
  const used = row.comment.length
  const setEffort = (effort: Effort | null) => onWrite({ effort, comment: row.comment }, true)
  return (
    <li
      hidden={isRejected}
      className="not-[[hidden]]:grid gap-x-5 gap-y-1 border-b border-rule py-3 print:grid! md:grid-cols-[200px_minmax(0,1fr)]"
      data-student={row.name}
    >
      <div>
        <h2 className="text-[15px] wrap-anywhere">
          {index + 1}. {row.name}
        </h2>
        {row.values.map((value) => (
          <FedLine key={value.lineId} value={value} isOnly={row.values.length === 1} marks={marks} />
        ))}
      </div>
      <div className="grid gap-2">
        {writable ? (
          <ChoiceGroup
            label={`Effort of ${row.name}`}
            choices={efforts}
            value={row.effort}
            onChange={setEffort}
            onKeyDown={(e) => {
              const chosen = efforts[Number(e.key) - 1]
              if (chosen) setEffort(chosen)
            }}
          />
        ) : (
          <p>Effort: {row.effort ? <strong>{row.effort}</strong> : notEntered}</p>
        )}
        {writable ? (
          <div>
            <TextArea
              ref={commentRef}
              rows={2}
              aria-label={`Comment on ${row.name}`}
              aria-invalid={used > limit || undefined}
              value={row.comment}
              onChange={(e) => onWrite({ effort: row.effort, comment: e.target.value }, false)}
              onBlur={onLeave}
              className="field-sizing-content min-h-13"
            />
            <p
              className={`text-right text-[12px] ${used > limit ? 'font-bold text-port' : 'text-muted'}`}
              role={used > limit ? 'alert' : undefined}
            >
              {used > limit ? (
                <>
                  <span aria-hidden>▲ </span>
                  {used - limit} characters too long for the card. Shorten the comment to save it.
                </>
              ) : (
                `${used} of ${limit}`
              )}
            </p>
          </div>
        ) : (
          <p className="max-w-prose">Comment: {row.comment || notEntered}</p>
        )}
      </div>
    </li>
  )
}
