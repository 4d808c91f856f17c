'use client'
import { Fragment, memo, type KeyboardEvent, type ReactNode, type RefObject } from 'react'
import { hereMeanings, lacking, type AttendanceCode, type Meaning } from '@/core/attendance/codes'
import { arrivalTime } from '@/core/attendance/arrival'
import { shortDate } from '@/core/calendar/date-words'
import { keepPlain } from '@/ui/plain-text'
import { RecentStrip } from './recent-strip'
import type { OpenRow, Register } from './use-register'

const looks: Readonly<Record<Meaning, string>> = {
  present: 'bg-panel border-rule',
  elsewhere: 'bg-panel border-ink border-dashed',
  late: 'bg-buff border-ochre',
  'absent with reason': 'bg-ink text-panel border-ink',
  'absent without reason': 'bg-panel border-ink border-2',
  'not expected': 'bg-shoal border-rule',
}

/** What is being written beside a mark. */
export interface Drafting {
  readonly studentId: string
  readonly field: 'note' | 'minutes'
  readonly text: string
}

interface Shared {
  readonly sessions: Register['sessions']
  /** When the session starts. */
  readonly starts: string | undefined
  readonly mayEndPlans: boolean
  readonly cells: RefObject<Map<string, HTMLButtonElement | null>>
  readonly onChoose: (studentId: string) => void
  readonly onClick: (studentId: string) => void
  /** The three commonest codes, for a finger. */
  readonly quick: readonly AttendanceCode[]
  readonly onQuick: (studentId: string, codeId: string) => void
  /** All codes and what is known of the student, where they do not stand beside the list. */
  readonly onMore: (studentId: string) => void
  readonly onDraft: (draft: Drafting) => void
  readonly onEndDraft: (how: { cancel: boolean; back: boolean }) => void
}

interface RowProps extends Shared {
  readonly index: number
  readonly row: OpenRow
  readonly code: Register['codes'][number] | undefined
  /** The code of a planned absence. */
  readonly planned: Register['codes'][number] | undefined
  readonly chosen: boolean
  readonly typed: string
  readonly draft: Drafting | undefined
  readonly touched: boolean
  /** The keys for note and minutes are about this student. */
  readonly meant: boolean
}

const Row = memo(function Row({
  index,
  row,
  code,
  planned,
  sessions,
  starts,
  mayEndPlans,
  chosen,
  typed,
  draft,
  touched,
  meant,
  cells,
  onChoose,
  onClick,
  quick,
  onQuick,
  onMore,
  onDraft,
  onEndDraft,
}: RowProps) {
  const { now, studentId } = row
  const lacks = code && lacking(code, now)
  const arrival = now.minutesLate === null ? undefined : arrivalTime(now.minutesLate, starts)
  const plan =
    planned &&
    row.planned &&
    (row.planned.id === null
      ? `${planned.code} in the half-day register`
      : `${planned.code} planned to ${shortDate(row.planned.lastDay)}`)
  const unlike =
    mayEndPlans &&
    planned &&
    row.planned?.id &&
    code &&
    (hereMeanings.includes(code.meaning) || code.meaning === 'late')
  const described = code
    ? `${code.code}, ${code.label}${lacks ? `, ${lacks} not entered` : ''}`
    : plan
      ? `not marked, ${plan}`
      : 'not marked'
  /** A field beside the mark: what is written stays the writer's until the field is left. */
  const beside = (field: Drafting['field'], saved: string) => ({
    tabIndex: chosen ? 0 : -1,
    value: draft?.field === field ? draft.text : saved,
    onInput: keepPlain,
    onFocus: () => onDraft({ studentId, field, text: saved }),
    onChange: (e: { target: { value: string } }) => onDraft({ studentId, field, text: e.target.value }),
    onBlur: () => onEndDraft({ cancel: false, back: false }),
    onKeyDown: (e: KeyboardEvent) => {
      e.stopPropagation()
      if (e.key !== 'Enter' && e.key !== 'Escape') return
      e.preventDefault()
      onEndDraft({ cancel: e.key === 'Escape', back: true })
    },
  })
  return (
    <tr
      className={`isolate ${chosen ? 'chosen-row' : ''} ${touched ? 'touched' : ''}`}
      aria-selected={chosen}
      onClick={() => onClick(studentId)}
    >
      <td className="text-right text-muted max-sm:hidden">{index + 1}</td>
      <th scope="row" className="text-[15px] wrap-anywhere">
        {row.name}
      </th>
      <td className="max-lg:hidden print:table-cell!">
        {row.recent.length > 0 && <RecentStrip recent={row.recent} sessions={sessions} />}
      </td>
      <td className="lg:hidden print:hidden!" data-quick>
        <span className="flex gap-1">
          {quick.map((c) => (
            <button
              key={c.id}
              type="button"
              tabIndex={-1}
              aria-label={`${c.label}, ${row.name}`}
              aria-pressed={code?.id === c.id}
              className="h-9 min-w-10 rounded-[3px] border border-line bg-panel font-bold aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-panel pointer-coarse:h-11 pointer-coarse:min-w-11"
              onClick={(e) => {
                e.stopPropagation()
                onQuick(studentId, c.id)
              }}
            >
              {c.code}
            </button>
          ))}
        </span>
      </td>
      <td className="text-center" data-mark>
        <button
          onClick={() => onMore(studentId)}
          ref={(cell) => {
            cells.current.set(studentId, cell)
          }}
          type="button"
          tabIndex={chosen ? 0 : -1}
          aria-label={`${row.name}: ${chosen && typed ? `${typed.toUpperCase()} typed` : described}`}
          // A finger chooses when it is lifted: rows that changed their height under it would take the press elsewhere.
          onFocus={(e) => e.currentTarget.matches(':focus-visible') && onChoose(studentId)}
          data-student={row.name}
          data-focus-home={chosen || undefined}
          className={`max-lg:empty:after:text-[13px] max-lg:empty:after:font-normal max-lg:empty:after:content-['More'] h-[24px] w-[58px] scroll-mt-10 contain-strict rounded-[3px] border align-middle text-[15px] font-bold pointer-coarse:h-11 ${chosen ? 'outline-2 outline-magenta' : ''} ${code && !(chosen && typed) ? looks[code.meaning] : planned && !(chosen && typed) ? 'border-dashed border-line bg-paper text-muted' : 'border-line bg-panel text-ink'}`}
        >
          {chosen && typed ? `${typed.toUpperCase()}_` : (code?.code ?? planned?.code ?? '')}
        </button>
      </td>
      <td
        className={`pr-0! text-[13px] whitespace-nowrap ${code?.meaning === 'late' ? '' : 'max-lg:hidden print:table-cell!'}`}
        data-beside
      >
        {/* Always there, so that entering a late mark creates no elements while typing. */}
        <label className={code?.meaning === 'late' ? '' : 'invisible'}>
          <input
            id={`minutes-${studentId}`}
            aria-label={`Minutes late, ${row.name}`}
            placeholder={meant ? '-' : undefined}
            title={arrival && `Arrived at ${arrival}`}
            maxLength={5}
            {...beside('minutes', String(now.minutesLate ?? ''))}
            className={`w-10 pointer-coarse:h-11 border-b bg-transparent text-right ${lacks === 'minutes' ? 'border-ochre bg-buff' : 'border-line'}`}
          />{' '}
          min
        </label>
      </td>
      <td
        data-beside
        className={
          chosen || now.note || lacks || unlike || plan || row.expected
            ? ''
            : 'max-lg:hidden print:table-cell!'
        }
      >
        <div className="flex items-center gap-2">
          {unlike && (
            <span className="bg-buff px-1 text-[13px] whitespace-nowrap">
              {planned.code} planned, but here =
            </span>
          )}
          <input
            id={`note-${studentId}`}
            aria-label={`Note, ${row.name}`}
            maxLength={200}
            placeholder={
              lacks === 'note'
                ? 'Note required'
                : plan && !code
                  ? plan
                  : row.expected
                    ? 'Accepted, not yet enrolled'
                    : 'Note  /'
            }
            {...beside('note', now.note ?? '')}
            className={`w-full min-w-0 border-b text-[13px] pointer-coarse:h-11 focus:border-magenta ${lacks === 'note' ? 'border-ochre bg-buff' : 'border-transparent bg-transparent'} ${lacks === 'note' || meant || row.expected || (plan && !code) ? '' : 'placeholder:opacity-0'}`}
          />
        </div>
      </td>
    </tr>
  )
})

interface TableProps extends Shared {
  readonly rows: readonly OpenRow[]
  readonly codes: Register['codes']
  readonly chosen: string
  readonly typed: string
  readonly drafting: Drafting | undefined
  readonly touched: ReadonlySet<string>
  /** Whom the keys for note and minutes are about. */
  readonly marked: string
  /** What could not be saved, by student; what is about nobody in particular under ''. */
  readonly notices: ReadonlyMap<string, ReactNode>
  readonly lessons: boolean
  readonly onKeyDown: (event: KeyboardEvent) => void
  readonly onBlurCell: () => void
}

/** A line of its own across the table. */
const Notice = ({ children }: { children: ReactNode }) => (
  // Its buttons' keys are their own, not the register's.
  <tr onKeyDown={(event) => event.stopPropagation()}>
    <td colSpan={7} className="p-0! whitespace-normal">
      {children}
    </td>
  </tr>
)

/**
 * The roll in name order, each with the last half-days, the mark of this one and a note. Its columns are of fixed width:
 * otherwise the browser would measure every cell again at each key.
 */
export function RegisterTable({
  rows,
  codes,
  chosen,
  typed,
  drafting,
  touched,
  marked,
  notices,
  lessons,
  onKeyDown,
  onBlurCell,
  ...shared
}: TableProps) {
  const codeOf = new Map(codes.map((c) => [c.id, c]))
  return (
    <table
      role="grid"
      className="rows register table-fixed [&_td]:py-0! [&_th]:py-[2px]!"
      aria-label="Register"
      onKeyDown={onKeyDown}
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && onBlurCell()}
      data-testid="register"
    >
      <thead>
        <tr>
          <th scope="col" className="w-9 text-right max-sm:hidden">
            #
          </th>
          <th scope="col">Name</th>
          <th scope="col" className="w-[236px] max-lg:hidden print:table-cell!">
            Last 20 {lessons ? 'lessons' : 'half-days'}
          </th>
          <th scope="col" className="w-[150px] lg:hidden print:hidden!">
            Commonest codes
          </th>
          <th scope="col" className="w-[76px] text-center">
            Mark
          </th>
          <th scope="col" className="w-[74px] pr-0!">
            Late
          </th>
          <th scope="col">Note</th>
        </tr>
      </thead>
      <tbody>
        {notices.has('') && <Notice>{notices.get('')}</Notice>}
        {rows.map((row, i) => {
          const isChosen = row.studentId === chosen
          const notice = notices.get(row.studentId)
          return (
            <Fragment key={row.studentId}>
              <Row
                index={i}
                row={row}
                code={row.now.codeId ? codeOf.get(row.now.codeId) : undefined}
                planned={row.planned ? codeOf.get(row.planned.codeId) : undefined}
                chosen={isChosen}
                typed={isChosen ? typed : ''}
                draft={drafting?.studentId === row.studentId ? drafting : undefined}
                touched={touched.has(row.studentId)}
                meant={row.studentId === marked}
                {...shared}
              />
              {notice && <Notice>{notice}</Notice>}
            </Fragment>
          )
        })}
      </tbody>
    </table>
  )
}
