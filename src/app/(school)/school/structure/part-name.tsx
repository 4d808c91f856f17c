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
