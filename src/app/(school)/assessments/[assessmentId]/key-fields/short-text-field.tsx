'use client'
import { limits } from '@/core/limits'
import type { KeyFieldProps } from './key-field-props'
import { TypedField } from './typed-field'

const acceptedIn = (text: string) =>
  text
    .split('/')
    .map((one) => one.trim())
    .filter(Boolean)

const matters = [
  ['case', 'capitals matter'],
  ['accents', 'accents matter'],
  ['spaces', 'spaces matter'],
] as const

/** The key of a short text: everything that is accepted, and what makes a difference. */
export function ShortTextField({ position, content, disabled, onChange }: KeyFieldProps<'short text'>) {
  return (
    <span className="grid gap-1">
      <TypedField
        label={`Key of question ${position}`}
        value={content.accepted.join(' / ')}
        placeholder="ice / frozen water"
        check={(text) => {
          const accepted = acceptedIn(text)
          return accepted.length <= limits.accepted &&
            accepted.every((one) => one.length <= limits.shortResponse)
            ? text
            : undefined
        }}
        disabled={disabled}
        className="min-w-44"
        onChange={(text) => onChange({ ...content, accepted: acceptedIn(text) }, `key ${text || 'removed'}`)}
      />
      <span className="flex flex-wrap gap-x-3 text-[12px]">
        {matters.map(([name, words]) => (
          <label key={name} className="flex min-h-6 items-center gap-1 pointer-coarse:min-h-11">
            <input
              type="checkbox"
              className="accent-ink"
              aria-label={`Question ${position}: ${words}`}
              disabled={disabled}
              checked={content.matters[name]}
              onChange={(e) =>
                onChange({ ...content, matters: { ...content.matters, [name]: e.target.checked } }, words)
              }
            />
            {words}
          </label>
        ))}
      </span>
    </span>
  )
}
