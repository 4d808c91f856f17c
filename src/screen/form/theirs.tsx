'use client'
import type { FieldValues, Path, PathValue } from 'react-hook-form'
import { Button } from '@/ui/button'
import type { CommandForm } from './use-command-form'

/**
 * What somebody else has saved in a field since the form was opened, and whose value is to stay.
 * @param words puts their value into words
 */
export function Theirs<V extends FieldValues, N extends Path<V>>({
  of,
  name,
  label,
  words,
}: {
  of: CommandForm<V>
  name: N
  label: string
  words?: (value: PathValue<V, N>) => string
}) {
  const found = of.contested.find((c) => c.name === name)
  if (!found) return null
  const theirs = found.theirs as PathValue<V, N>
  const shown = words ? words(theirs) : String(theirs)
  return (
    <div
      className="hint flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]"
      role="status"
      data-theirs={name}
    >
      <span className="flex-1 basis-48 wrap-anywhere">
        Changed by someone else since you opened this: <strong>{shown || 'empty'}</strong>
      </span>
      <Button kind="plain" onClick={() => of.settle(name, 'theirs')}>
        Use theirs<span className="sr-only"> for {label}</span>
      </Button>
      <Button kind="plain" onClick={() => of.settle(name, 'mine')}>
        Keep mine<span className="sr-only"> for {label}</span>
      </Button>
    </div>
  )
}
