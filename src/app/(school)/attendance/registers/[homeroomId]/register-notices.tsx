'use client'
import { useMemo, type ReactNode } from 'react'
import { ConflictNotice, NotSavedNotice } from '@/screen/conflict-notice'
import { contested } from '@/screen/use-recorded'
import type { Mark, useRegister } from './use-register'

const noMark: Mark = { codeId: null, minutesLate: null, note: null }

/** What could not be saved, under the row of the student it is about; what is about nobody in particular stands under ''. */
export function useRegisterNotices(
  { recorded, rejectedEdits, codeName, resolve }: ReturnType<typeof useRegister>,
  nameOf: (studentId: string) => string,
): ReadonlyMap<string, ReactNode> {
  return useMemo(() => {
    const notices = new Map<string, ReactNode>()
    const add = (studentId: string, notice: ReactNode) =>
      notices.set(
        studentId,
        <>
          {notices.get(studentId)}
          {notice}
        </>,
      )
    const words = (mark: Mark) => [codeName(mark.codeId), mark.note].filter(Boolean).join(', ')
    const studentOf = (record: string) => record.split(' ').at(-1) ?? ''
    for (const rejected of rejectedEdits) {
      const { id, label } = rejected.edit
      const records =
        recorded?.typedIn(rejected.edit, () => noMark).map(([record]) => studentOf(record)) ?? []
      if (rejected.reason !== 'conflict')
        add(
          records.length === 1 ? (records[0] ?? '') : '',
          <NotSavedNotice
            key={id}
            label={label}
            message={rejected.message}
            onResolve={(keep) => resolve(rejected, keep)}
          />,
        )
      else
        for (const c of contested(recorded, rejected, noMark)) {
          const studentId = studentOf(c.record)
          add(
            studentId,
            <ConflictNotice
              key={id + c.record}
              theirs={words(c.theirs)}
              mine={words(c.mine)}
              onResolve={(keep) => resolve(rejected, keep)}
            >
              <strong>{nameOf(studentId)}</strong>: {c.by} entered <strong>{words(c.theirs)}</strong> while
              you were entering <strong>{words(c.mine)}</strong>. {words(c.theirs)} has been kept.
            </ConflictNotice>,
          )
        }
    }
    return notices
    // Names and codes change with the rows only; the notices with what waits.
  }, [rejectedEdits]) // eslint-disable-line react-hooks/exhaustive-deps
}
