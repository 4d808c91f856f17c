'use client'
import type { Ref } from 'react'
import { efforts, type Effort } from '@/core/reports/entries'
import { TextArea } from '@/ui/field'
import Link from '@/screen/link'
import type { Entries, Written } from './use-entries'

type Row = Entries['rows'][number] & Written

interface Props {
  readonly row: Row
  readonly index: number
  readonly writable: boolean
  readonly limit: number
  /** Where the mark is worked out. */
  readonly gradebook: string
  readonly commentRef: Ref<HTMLTextAreaElement>
  readonly onWrite: (written: Written, atOnce: boolean) => void
}

/** One student's entry: the fed mark and grade, effort to choose, the comment with its limit in sight. */
export function EntryRow({ row, index, writable, limit, gradebook, commentRef, onWrite }: Props) {
  const used = row.comment.length
  const setEffort = (effort: Effort | null) => onWrite({ effort, comment: row.comment }, true)
  return (
    <li
      className="grid gap-x-5 gap-y-1 border-b border-rule py-3 md:grid-cols-[200px_minmax(0,1fr)]"
      data-student={row.name}
    >
      <div>
        <h2 className="text-[15px]">
          {index + 1}. {row.name}
        </h2>
        <p className="text-[15px]">
          {row.mark === undefined ? (
            <span className="text-muted">no mark yet</span>
          ) : (
            <Link href={gradebook} className="link" title="How this mark comes about">
              <strong>{row.mark}</strong> {row.grade}
            </Link>
          )}
          {row.markNow !== undefined && (
            <span className="block text-[12px] text-ochre">
              now {row.markNow} in the gradebook; handed in as {row.mark}
            </span>
          )}
        </p>
      </div>
      <div className="grid gap-2">
        {writable ? (
          <div
            role="radiogroup"
            aria-label={`Effort of ${row.name}`}
            className="flex flex-wrap"
            onKeyDown={(e) => {
              const chosen = efforts[Number(e.key) - 1]
              if (chosen) setEffort(chosen)
            }}
          >
            {efforts.map((effort, i) => (
              <button
                key={effort}
                type="button"
                role="radio"
                aria-checked={row.effort === effort}
                tabIndex={(row.effort ? row.effort === effort : i === 0) ? 0 : -1}
                onClick={() => setEffort(row.effort === effort ? null : effort)}
                onKeyDown={(e) => {
                  const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0
                  const next = by === 0 ? undefined : efforts[(i + by + efforts.length) % efforts.length]
                  if (!next) return
                  e.preventDefault()
                  setEffort(next)
                  const group = e.currentTarget.parentElement
                  requestAnimationFrame(() =>
                    group?.querySelector<HTMLElement>('[aria-checked=true]')?.focus(),
                  )
                }}
                className={`min-h-7 border border-l-0 border-line px-3 first:rounded-l-[3px] first:border-l last:rounded-r-[3px] pointer-coarse:min-h-11 ${row.effort === effort ? 'bg-ink font-bold text-panel' : 'bg-panel'}`}
              >
                {effort}
              </button>
            ))}
          </div>
        ) : (
          <p>
            Effort: <strong>{row.effort ?? 'none'}</strong>
          </p>
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
              onBlur={() => onWrite({ effort: row.effort, comment: row.comment }, true)}
              className="field-sizing-content min-h-13"
            />
            <p
              className={`text-right text-[12px] ${used > limit ? 'font-bold text-port' : 'text-muted'}`}
              role={used > limit ? 'alert' : undefined}
            >
              {used > limit ? (
                <>
                  <span aria-hidden>▲ </span>
                  {used - limit} characters too many for the card; not saved until it is shorter
                </>
              ) : (
                `${used} of ${limit}`
              )}
            </p>
          </div>
        ) : (
          <p className="max-w-prose">{row.comment || <span className="text-muted">No comment.</span>}</p>
        )}
      </div>
    </li>
  )
}
