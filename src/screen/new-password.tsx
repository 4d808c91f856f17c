'use client'
import { useState, type FormEvent, type ReactNode } from 'react'
import { checkPassword, unmetRules } from '@/core/people/password-rule'
import { Button } from '@/ui/button'
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

/** What a password still lacks, as a sentence, or undefined when it can be sent. */
export function lacking(password: string, own: readonly string[]): string | undefined {
  const [unmet] = unmetRules(password, own)
  return unmet && `This password does not meet the rule yet: ${unmet}`
}

/** A form that sets a new password for somebody who is not signed in. */
export function NewPasswordForm({
  own,
  send,
  children,
}: {
  /** Names the password must not be made of. */
  own: readonly string[]
  /** Sends it; answers what is wrong, or undefined when it was accepted. */
  send: (password: string) => Promise<string | undefined>
  /** What stands below the button. */
  children?: ReactNode
}) {
  const [password, setPassword] = useState('')
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  async function submit(event: FormEvent) {
    event.preventDefault()
    const unmet = lacking(password, own)
    if (unmet) return setProblem(unmet)
    setBusy(true)
    setProblem(await send(password))
    setBusy(false)
  }
  return (
    <form method="post" onSubmit={(e) => void submit(e)} className="grid gap-4" noValidate>
      <NewPassword
        own={own}
        value={password}
        problem={problem}
        autoFocus
        onChange={(value) => {
          setPassword(value)
          setProblem(undefined)
        }}
      />
      <Button type="submit" busy={busy} className="justify-self-start">
        Save password
      </Button>
      {children}
    </form>
  )
}
