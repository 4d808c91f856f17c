'use client'
import { useState, type FormEvent } from 'react'
import { checkPassword } from '@/core/people/password-rule'
import { Button } from '@/ui/button'
import { Field, TextInput, Tick } from '@/ui/field'
import { tellServer } from '../shared/server'

/** Shows the rule part by part while the password is typed. */
export function SetPasswordForm({ own, askPresent }: { own: readonly string[]; askPresent: boolean }) {
  const [password, setPassword] = useState('')
  const [present, setPresent] = useState('')
  const [shown, setShown] = useState(false)
  const [problem, setProblem] = useState<{ path?: string; message: string }>()
  const [busy, setBusy] = useState(false)
  const checks = checkPassword(password, own)
  async function submit(event: FormEvent) {
    event.preventDefault()
    const unmet = checks.find((c) => !c.met)
    if (unmet)
      return setProblem({
        path: 'password',
        message: `This password does not meet the rule yet: ${unmet.text}`,
      })
    setBusy(true)
    const result = await tellServer('people.setOwnPassword', {
      password,
      present: askPresent ? present : undefined,
    })
    if (result.ok) return window.location.assign('/')
    setBusy(false)
    const { failure } = result
    setProblem({
      message: failure.message,
      path: failure.kind === 'invalid' ? failure.fields[0]?.path : undefined,
    })
  }
  return (
    <form onSubmit={(e) => void submit(e)} className="grid gap-4">
      {askPresent && (
        <Field label="Present password" problem={problem?.path === 'present' ? problem.message : undefined}>
          {(field) => (
            <TextInput
              {...field}
              type="password"
              autoComplete="current-password"
              value={present}
              onChange={(e) => setPresent(e.target.value)}
              required
            />
          )}
        </Field>
      )}
      <Field
        label="New password"
        problem={problem && problem.path !== 'present' ? problem.message : undefined}
      >
        {(field) => (
          <TextInput
            {...field}
            type={shown ? 'text' : 'password'}
            autoComplete="new-password"
            autoFocus={!askPresent}
            value={password}
            onChange={(e) => {
              setPassword(e.target.value)
              setProblem(undefined)
            }}
          />
        )}
      </Field>
      <ul aria-label="Rule for passwords" className="grid gap-1 text-[13px]">
        {checks.map((check) => (
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
      <Button type="submit" busy={busy} className="justify-self-start">
        Set password and go on
      </Button>
    </form>
  )
}
