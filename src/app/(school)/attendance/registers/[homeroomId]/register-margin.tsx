'use client'
import { memo } from 'react'
import type { AttendanceCode } from '@/core/attendance/codes'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import Link from '@/screen/link'
import { useRested } from '@/screen/use-rested'
import { CodePalette } from './code-palette'
import type { OpenRow } from './use-register'

/** The selected student, the codes, the contacts. The codes follow every key, the student when the keys rest. */
export function RegisterMargin({
  row,
  codes,
  typed,
  onTake,
  onLeaveCodes,
  onEndPlan,
  term,
}: {
  row: OpenRow
  codes: readonly AttendanceCode[]
  typed: string
  onTake: (code: AttendanceCode) => void
  onLeaveCodes: () => void
  /** Missing for who may not. */
  onEndPlan: (() => void) | undefined
  /** Until when the term's figures count, in words. */
  term: string
}) {
  const rested = useRested(row)
  return (
    <div className="stay max-sm:flex max-sm:flex-col sm:max-lg:grid sm:max-lg:grid-cols-[2fr_3fr] sm:max-lg:grid-rows-[auto_1fr] sm:max-lg:gap-x-6">
      <div>
        <Figures row={rested} term={term} />
        {row.planned && (
          <div className="mb-4">
            <h2 className="border-b border-ink pb-1">
              {row.planned.id === null ? 'In the half-day register' : 'Planned absence'}
            </h2>
            <p className="mt-1 mb-2">
              <strong>{codes.find((c) => c.id === row.planned?.codeId)?.code}</strong>,{' '}
              {shortDate(row.planned.firstDay)}
              {row.planned.lastDay !== row.planned.firstDay && ` to ${shortDate(row.planned.lastDay)}`}
              {row.planned.note && `, ${row.planned.note}`}
            </p>
            {onEndPlan && row.planned.id !== null && (
              <Button kind="plain" keyCap="=" onClick={onEndPlan}>
                End it, the student is here
              </Button>
            )}
          </div>
        )}
      </div>
      <div className="max-sm:-order-1 max-sm:mb-4 sm:max-lg:col-start-2 sm:max-lg:row-span-2 sm:max-lg:row-start-1">
        <CodePalette
          codes={codes}
          typed={typed}
          present={row.now.codeId}
          onTake={onTake}
          onLeave={onLeaveCodes}
        />
      </div>
      <div>
        <Guardians guardians={rested.guardians} />
      </div>
    </div>
  )
}

const Figures = memo(function Figures({ row, term }: { row: OpenRow; term: string }) {
  const { figures } = row
  return (
    <>
      <h2 className="text-[18px]">
        <Link href={`/people/${row.studentId}`} className="no-underline hover:underline">
          {spokenName(row.name)}
        </Link>
      </h2>
      <p className="mb-3 text-muted">
        {row.number === null ? 'Accepted, not yet enrolled' : `No. ${String(row.number).padStart(4, '0')}`}
      </p>
      {figures && figures.possible > 0 && (
        <dl className="mb-4 grid grid-cols-[96px_1fr] gap-y-1">
          <dt className="text-muted">This term</dt>
          <dd>
            <strong>{figures.percentPresent}%</strong>, {figures.present} of {figures.possible} half-days to{' '}
            {term}
          </dd>
          <dt className="text-muted">Unexplained absences</dt>
          <dd>
            <strong>{figures.withoutReason}</strong> {figures.withoutReason === 1 ? 'half-day' : 'half-days'}
          </dd>
          <dt className="text-muted">Late</dt>
          <dd>{figures.late}</dd>
        </dl>
      )}
    </>
  )
})

const Guardians = memo(function Guardians({ guardians }: { guardians: OpenRow['guardians'] }) {
  if (guardians?.length === 0) return null
  return (
    <>
      <h2 className="mt-4 border-b border-ink pb-1">Contacts</h2>
      {guardians ? (
        <ul className="mt-1">
          {guardians.map((g, i) => (
            <li key={g.name}>
              {g.name}, {g.relation}
              {i === 0 ? ' (call first)' : ''}
              {g.phone && <span className="whitespace-nowrap text-muted">, {g.phone}</span>}
            </li>
          ))}
        </ul>
      ) : (
        <p className="mt-1 text-muted">The office has the contacts of students you do not teach.</p>
      )}
    </>
  )
})
