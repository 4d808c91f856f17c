'use client'
import Link from '../../../../shared/link'
import { readTypedCode, type AttendanceCode } from '@/core/attendance/codes'
import { spokenName } from '@/core/people/names'
import type { OpenRow } from './use-register'

/** What the margin says of the chosen student: figures, the codes, whom to call. */
export function RegisterMargin({
  row,
  codes,
  typed,
  onTake,
  term,
}: {
  row: OpenRow
  codes: readonly AttendanceCode[]
  typed: string
  onTake: (code: AttendanceCode) => void
  term: string
}) {
  const read = readTypedCode(typed, codes)
  const possible = new Set((read.kind === 'waiting' ? read.possible : codes).map((c) => c.id))
  const longer =
    read.kind === 'waiting' && read.exact
      ? read.possible.filter((c) => c !== read.exact).map((c) => c.code)
      : []
  const { figures } = row
  return (
    <div className="stay">
      <h2 className="text-[18px]">
        <Link href={`/people/${row.studentId}`} className="no-underline hover:underline">
          {spokenName(row.name)}
        </Link>
      </h2>
      <p className="mb-3 text-muted">
        {row.number === null ? 'Accepted, not yet enrolled' : `No. ${String(row.number).padStart(4, '0')}`}
      </p>
      {figures && figures.possible > 0 && (
        <dl className="mb-4 grid grid-cols-[84px_1fr] gap-y-1">
          <dt className="text-muted">This term</dt>
          <dd>
            <strong>{figures.percentPresent}%</strong>, {figures.present} of {figures.possible} half-days to{' '}
            {term}
          </dd>
          <dt className="text-muted">No reason</dt>
          <dd>
            <strong>{figures.withoutReason}</strong> {figures.withoutReason === 1 ? 'half-day' : 'half-days'}
            {figures.withoutReason > 0 ? ' to follow up' : ''}
          </dd>
          <dt className="text-muted">Late</dt>
          <dd>{figures.late}</dd>
        </dl>
      )}
      <h2 className="border-b border-ink pb-1">Mark</h2>
      <ul aria-label="Codes">
        {codes.map((c) => (
          <li key={c.id} className="border-b border-rule">
            <button
              type="button"
              onClick={() => onTake(c)}
              disabled={!possible.has(c.id)}
              className="flex min-h-7 w-full items-center text-left hover:bg-shoal-light disabled:opacity-35 pointer-coarse:min-h-11"
            >
              <span className="w-11 pl-2 font-bold">{c.code}</span>
              <span>{c.label}</span>
            </button>
          </li>
        ))}
      </ul>
      {longer.length > 0 && (
        <p className="hint mt-2 text-[13px]">
          Typing <strong>{typed}</strong> waits for a second key, because{' '}
          {longer.join(', ').replace(/, ([^,]*)$/, ' and $1')} {longer.length === 1 ? 'begins' : 'begin'} with
          it. Enter takes {typed} as it is.
        </p>
      )}
      {row.guardians.length > 0 && (
        <>
          <h2 className="mt-4 border-b border-ink pb-1">Call home</h2>
          <ul className="mt-1">
            {row.guardians.map((g, i) => (
              <li key={g.name}>
                {g.name}, {g.relation}
                {i === 0 ? ' (first call)' : ''}
                {g.phone && <span className="text-muted">, {g.phone}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
