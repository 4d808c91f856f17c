'use client'
import { ConflictNotice, NotSavedNotice } from '@/screen/conflict-notice'
import { contested } from '@/screen/use-recorded'
import type { Fields } from './use-fields'

/** Under a field that two people changed, or that was not saved: what happened, and what can be done. */
export function FieldConflict({ of, name, label }: { of: Fields; name: string; label: string }) {
  return of.rejectedEdits.flatMap((rejected) => {
    if (rejected.reason === 'conflict')
      return contested(of.recorded, rejected, null)
        .filter((c) => c.record === of.recordOf(name))
        .map((c) => (
          <ConflictNotice key={rejected.edit.id} onResolve={(keep) => of.resolve(rejected, keep)}>
            <strong>{label}</strong>: {c.by} changed this field while you were editing it. Their version has
            been kept.
            <br />
            <strong>Theirs:</strong> {c.theirs ?? 'empty'}
            <br />
            <strong>Yours:</strong> {c.mine ?? 'empty'}
          </ConflictNotice>
        ))
    const typed = of.recorded?.typedIn(rejected.edit, () => null) ?? []
    if (!typed.some(([record]) => record === of.recordOf(name))) return []
    return (
      <NotSavedNotice
        key={rejected.edit.id}
        label={rejected.edit.label}
        message={rejected.message}
        onResolve={(keep) => of.resolve(rejected, keep)}
      />
    )
  })
}
