'use client'
import { memo, type KeyboardEvent, type RefObject } from 'react'
import type { AttendanceCode, Meaning } from '@/core/attendance/codes'
import { RecentStrip } from './recent-strip'
import type { MarkChange, OpenRow, Register } from './use-register'

const looks: Readonly<Record<Meaning, string>> = {
  present: 'bg-panel border-rule',
  elsewhere: 'bg-panel border-ink border-dashed',
  late: 'bg-buff border-ochre',
  'absent with reason': 'bg-ink text-panel border-ink',
  'absent without reason': 'bg-panel border-ink border-2',
  'not expected': 'bg-shoal border-rule',
}

interface RowProps {
  readonly index: number
  readonly row: OpenRow
  readonly code: AttendanceCode | undefined
  readonly sessions: Register['sessions']
  readonly chosen: boolean
  readonly typed: string
  readonly touched: boolean
  readonly cells: RefObject<(HTMLButtonElement | null)[]>
  readonly onChoose: (index: number) => void
  readonly onMark: (studentId: string, change: Partial<MarkChange>) => void
  readonly onLeaveNote: () => void
}

const Row = memo(function Row({
  index,
  row,
  code,
  sessions,
  chosen,
  typed,
  touched,
  cells,
  onChoose,
  onMark,
  onLeaveNote,
}: RowProps) {
  const { now } = row
  const described = code ? `${code.code}, ${code.label}` : 'no mark yet'
  return (
    <tr
      className={`isolate ${chosen ? 'bg-shoal' : ''} ${touched ? 'touched' : ''}`}
      aria-selected={chosen}
      onClick={() => onChoose(index)}
    >
      <td className="w-9 text-right text-muted">{index + 1}</td>
      <th scope="row" className="whitespace-nowrap text-[15px]">
        {row.name}
      </th>
      <td className="max-md:hidden">
        <RecentStrip recent={row.recent} sessions={sessions} />
      </td>
      <td className="w-[76px] text-center">
        <button
          ref={(cell) => {
            cells.current[index] = cell
          }}
          type="button"
          tabIndex={chosen ? 0 : -1}
          aria-label={`${row.name}: ${chosen && typed ? `${typed} typed` : described}`}
          onFocus={() => onChoose(index)}
          data-student={row.name}
          className={`h-[24px] w-[58px] contain-strict rounded-[3px] border align-middle text-[15px] font-bold pointer-coarse:h-10 ${chosen ? 'outline-2 outline-magenta' : ''} ${code && !(chosen && typed) ? looks[code.meaning] : 'border-line bg-panel text-ink'}`}
        >
          {chosen && typed ? `${typed}_` : (code?.code ?? '')}
        </button>
      </td>
      <td className="w-[70px] pr-0! text-[13px] whitespace-nowrap">
        {/* Always there, so that marking somebody late builds nothing anew while one types. */}
        <label className={code?.meaning === 'late' ? '' : 'invisible'}>
          <input
            aria-label={`Minutes late, ${row.name}`}
            inputMode="numeric"
            tabIndex={chosen ? 0 : -1}
            defaultValue={now.minutesLate ?? ''}
            key={`m${now.minutesLate}`}
            onBlur={(e) =>
              onMark(row.studentId, {
                minutesLate: /^\d{1,3}$/.test(e.target.value) ? Number(e.target.value) : null,
              })
            }
            onKeyDown={(e) => {
              e.stopPropagation()
              if (e.key === 'Enter' || e.key === 'Escape') onLeaveNote()
            }}
            className="w-9 border-b border-line bg-transparent text-right"
          />{' '}
          min
        </label>
      </td>
      <td className="min-w-32">
        <input
          id={`note-${row.studentId}`}
          aria-label={`Note, ${row.name}`}
          maxLength={200}
          tabIndex={chosen ? 0 : -1}
          defaultValue={now.note ?? ''}
          key={`n${now.note}`}
          placeholder={row.expected ? 'Accepted, not yet enrolled' : 'Note  /'}
          onBlur={(e) => onMark(row.studentId, { note: e.target.value.trim() || null })}
          onKeyDown={(e) => {
            e.stopPropagation()
            if (e.key === 'Enter' || e.key === 'Escape') {
              e.preventDefault()
              onLeaveNote()
            }
          }}
          className={`w-full min-w-0 border-b border-transparent bg-transparent text-[13px] focus:border-magenta ${chosen || row.expected ? '' : 'placeholder:opacity-0'}`}
        />
      </td>
    </tr>
  )
})

interface TableProps {
  readonly rows: readonly OpenRow[]
  readonly codes: readonly AttendanceCode[]
  readonly sessions: Register['sessions']
  readonly chosen: number
  readonly typed: string
  readonly touched: ReadonlySet<string>
  readonly cells: RefObject<(HTMLButtonElement | null)[]>
  readonly onChoose: (index: number) => void
  readonly onKeyDown: (event: KeyboardEvent) => void
  readonly onMark: RowProps['onMark']
  readonly onLeaveNote: () => void
}

/** The roll in name order, each with the last half-days, the mark of now and a note. */
export function RegisterTable({
  rows,
  codes,
  sessions,
  chosen,
  typed,
  touched,
  cells,
  onChoose,
  onKeyDown,
  onMark,
  onLeaveNote,
}: TableProps) {
  const codeOf = new Map(codes.map((c) => [c.id, c]))
  return (
    <table className="rows [&_td]:py-0! [&_th]:py-[2px]!" onKeyDown={onKeyDown} data-testid="register">
      <thead>
        <tr>
          <th scope="col" className="text-right">
            #
          </th>
          <th scope="col">Name</th>
          <th scope="col" className="max-md:hidden">
            Last 20 half-days
          </th>
          <th scope="col" className="text-center">
            Now
          </th>
          <th scope="col" className="pr-0!">
            Late
          </th>
          <th scope="col">Note</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <Row
            key={row.studentId}
            index={i}
            row={row}
            code={row.now.codeId ? codeOf.get(row.now.codeId) : undefined}
            sessions={sessions}
            chosen={i === chosen}
            typed={i === chosen ? typed : ''}
            touched={touched.has(row.studentId)}
            cells={cells}
            onChoose={onChoose}
            onMark={onMark}
            onLeaveNote={onLeaveNote}
          />
        ))}
      </tbody>
    </table>
  )
}
