'use client'
import { writeEntry } from '@/core/marks/typed-score'
import { ConflictNotice } from '@/screen/conflict-notice'
import type { CellChange, ScoreConflict } from './use-gradebook'

/** Says that scores changed under one's hands, what stands now, and asks which to keep. */
export function ScoreConflictNotice({
  conflict,
  nameOf,
  onResolve,
}: {
  conflict: ScoreConflict
  nameOf: (cell: CellChange) => string
  onResolve: (keep: 'mine' | 'theirs') => void
}) {
  const [only] = conflict.mine.length === 1 ? conflict.mine : []
  const standing = conflict.standing.map((s) => writeEntry(s.entry) || 'empty')
  return (
    <ConflictNotice theirs="what stands" onResolve={onResolve}>
      {only && (
        <>
          <strong>{nameOf(only)}</strong>: you typed <strong>{writeEntry(only.entry) || 'nothing'}</strong>
          .{' '}
        </>
      )}
      {conflict.message} What stands now is {standing.join(', ')}.
    </ConflictNotice>
  )
}
