'use client'
import { ConflictNotice, NotSavedNotice } from '@/screen/conflict-notice'
import { contested } from '@/screen/use-recorded'
import type { Fields } from './use-fields'

/** The fields of a record that two people changed, and those that were not saved, each with what can be done. */
export function FieldConflicts({
  of,
  labels,
}: {
  of: Fields
  /** What each field is called on the page. */
  labels: Readonly<Record<string, string>>
}) {
  return of.asides.flatMap((aside) =>
    aside.reason === 'conflict' ? (
      contested(of.recorded, aside, null).map((c) => (
        <ConflictNotice key={aside.edit.id + c.record} onResolve={(keep) => of.resolve(aside, keep)}>
          <strong>{labels[c.record.split(' ').at(-1) ?? ''] ?? 'A field'}</strong>: {c.by} changed this field
          while you were editing it. Their version has been kept.
          <br />
          <strong>Theirs:</strong> {c.theirs ?? 'empty'}
          <br />
          <strong>Yours:</strong> {c.mine ?? 'empty'}
        </ConflictNotice>
      ))
    ) : (
      <NotSavedNotice
        key={aside.edit.id}
        label={aside.edit.label}
        message={aside.message}
        onResolve={(keep) => of.resolve(aside, keep)}
      />
    ),
  )
}
