'use client'
import { useState } from 'react'
import { checkPassword } from '@/core/people/password-rule'
import { Field, TextInput, Tick } from '@/ui/field'

/** A field for a new password, with the rule part by part as it is typed. */
export function NewPassword({
  own,
  value,
  problem,
  autoFocus,
  onChange,
}: {
  /** Names the password must not be made of. */
  own: readonly string[]
  value: string
  problem: string | undefined
  autoFocus: boolean
  onChange: (value: string) => void
}) {
  const [shown, setShown] = useState(false)
  return (
    <>
      <Field label="New password" problem={problem}>
        {(field) => (
          <TextInput
            {...field}
            type={shown ? 'text' : 'password'}
            autoComplete="new-password"
            autoFocus={autoFocus}
            value={value}
            onChange={(e) => onChange(e.target.value)}
          />
        )}
      </Field>
      <ul aria-label="Rule for passwords" className="grid gap-1 text-[13px]">
        {checkPassword(value, own).map((check) => (
          <li key={check.text} className={`flex ${check.met ? 'text-starboard' : 'text-muted'}`}>
            <span aria-hidden className="w-5 flex-none">
              {check.met ? '✓' : '○'}
            </span>
            <span>
              <span className="sr-only">{check.met ? 'Met: ' : 'Not met yet: '}</span>
              {check.text}
            </span>
          </li>
        ))}
      </ul>
      <Tick label="Show what I type" checked={shown} onChange={(e) => setShown(e.target.checked)} />
    </>
  )
}
