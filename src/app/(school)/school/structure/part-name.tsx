'use client'
import type { PartKind } from '@/core/calendar/inputs'

export type OpenPart = (kind: PartKind, id: string) => void

/** A name that opens its dialog for those who may change it. */
export function PartName({ name, onOpen }: { name: string; onOpen?: () => void }) {
  if (!onOpen) return name
  return (
    <button type="button" className="link min-h-6 text-left" onClick={onOpen}>
      {name}
    </button>
  )
}

/** Parts of one kind by their names, in their order. */
export function PartNames({
  label,
  kind,
  parts,
  none,
  onPart,
}: {
  label: string
  kind: PartKind
  parts: readonly { readonly id: string; readonly name: string }[]
  none: string
  onPart?: OpenPart
}) {
  if (parts.length === 0) return <p className="mb-2">{none}</p>
  return (
    <ul className="mb-2 flex flex-wrap gap-x-4 gap-y-1" aria-label={label}>
      {parts.map(({ id, name }) => (
        <li key={id}>
          <PartName name={name} onOpen={onPart && (() => onPart(kind, id))} />
        </li>
      ))}
    </ul>
  )
}
