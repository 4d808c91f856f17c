'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { useSchool } from '@/screen/school-context'
import { sendCommand } from '@/screen/server'
import type { Register, RegisterInput, RegisterRow } from './use-register'

const noMark = { codeId: null, minutesLate: null, note: null }

/** Marks of a session that does not take place any more: kept from before, counted nowhere; the office clears them. */
export function KeptMarks({
  register,
  input,
  onCleared,
}: {
  register: Register
  input: RegisterInput
  onCleared: () => void
}) {
  const { rows, codes, date, session } = register
  const mayClear = useSchool().acts.some((act) => act.href === '/attendance/corrections')
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  const codeOf = new Map(codes.map((c) => [c.id, c]))
  const marked = rows.flatMap((row) => {
    const code = row.mark?.codeId ? codeOf.get(row.mark.codeId) : undefined
    return code && row.mark ? [{ row, code, mark: row.mark }] : []
  })
  if (marked.length === 0) return null
  async function clear(of: readonly { row: RegisterRow; mark: NonNullable<RegisterRow['mark']> }[]) {
    setBusy(true)
    const cells = of.map(({ row, mark }) => ({
      key: { studentId: row.studentId },
      value: noMark,
      expectedVersion: mark.version,
    }))
    const result =
      'classId' in input
        ? await sendCommand('attendance.setLessonMarks', { classId: input.classId, date, session, cells })
        : await sendCommand('attendance.setMarks', {
            homeroomId: input.homeroomId,
            date,
            session: input.session,
            cells,
          })
    setBusy(false)
    setProblem(result.ok ? undefined : result.failure.message)
    onCleared()
  }
  return (
    <section aria-labelledby="kept">
      <h2 id="kept" className="mb-1">
        Kept from before
      </h2>
      <p className="mb-2">
        This register was taken before. Its marks are kept, but count in no figure, letter or list.{' '}
        {!mayClear && 'The office can clear them.'}
      </p>
      {problem && <Problem>{problem}</Problem>}
      <table className="rows" aria-label="Marks kept from before">
        <thead>
          <tr>
            <th scope="col">Student</th>
            <th scope="col">Mark</th>
            <th scope="col">Entered by</th>
            {mayClear && (
              <th scope="col">
                <span className="sr-only">Clear</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {marked.map(({ row, code, mark }) => (
            <tr key={row.studentId}>
              <th scope="row">{row.name}</th>
              <td>
                <strong>{code.code}</strong> {code.label}
                {mark.minutesLate !== null && `, ${mark.minutesLate} min`}
                {mark.note && `, ${mark.note}`}
              </td>
              <td>{mark.changedBy}</td>
              {mayClear && (
                <td className="text-right">
                  <button
                    type="button"
                    className="link"
                    disabled={busy}
                    aria-label={`Clear the mark of ${row.name}`}
                    onClick={() => void clear([{ row, mark }])}
                  >
                    Clear
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {mayClear && marked.length > 1 && (
        <Button kind="plain" className="mt-2" busy={busy} onClick={() => void clear(marked)}>
          Clear all {marked.length}
        </Button>
      )}
    </section>
  )
}
