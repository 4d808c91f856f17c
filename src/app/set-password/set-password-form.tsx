'use client'
import { useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Field, TextInput } from '@/ui/field'
import { lacking, NewPassword } from '@/screen/new-password'
import { sendCommand } from '@/screen/server'

/** Shows the rule part by part while the password is typed. */
export function SetPasswordForm({ own, askPresent }: { own: readonly string[]; askPresent: boolean }) {
  const [password, setPassword] = useState('')
  const [present, setPresent] = useState('')
  const [problem, setProblem] = useState<{ path?: string; message: string }>()
  const [busy, setBusy] = useState(false)
  async function submit(event: FormEvent) {
    event.preventDefault()
    const unmet = lacking(password, own)
    if (unmet) return setProblem({ path: 'password', message: unmet })
    setBusy(true)
    const result = await sendCommand('account.setOwnPassword', {
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
    <form method="post" onSubmit={(e) => void submit(e)} className="grid gap-4">
      {askPresent && (
        <Field label="Current password" problem={problem?.path === 'present' ? problem.message : undefined}>
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
      <NewPassword
        own={own}
        value={password}
        problem={problem && problem.path !== 'present' ? problem.message : undefined}
        autoFocus={!askPresent}
        onChange={(value) => {
          setPassword(value)
          setProblem(undefined)
        }}
      />
      <Button type="submit" busy={busy} className="justify-self-start">
        Save password
      </Button>
    </form>
  )
}
