'use client'
import { useState } from 'react'
import { roleWords } from '@/core/people/roles'
import type { SchoolChoice } from '@/server/platform/session'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'

/** One button for each school; signing out is always possible. */
export function SchoolChoices({ schools }: { schools: readonly SchoolChoice[] }) {
  const [problem, setProblem] = useState<string>()
  async function enter(schoolId: string) {
    const response = await fetch('/api/school', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ schoolId }),
    }).catch(() => undefined)
    if (response?.ok) return window.location.assign('/')
    setProblem('Kedge is not available at the moment. Please try again.')
  }
  async function leave() {
    await fetch('/api/sign-out', { method: 'POST' }).catch(() => undefined)
    window.location.assign('/sign-in')
  }
  return (
    <div className="grid gap-4">
      {problem && <Problem>{problem}</Problem>}
      <ul className="grid gap-2">
        {schools.map((school) => (
          <li key={school.id} className="flex items-baseline gap-3">
            <Button onClick={() => void enter(school.id)}>{school.name}</Button>
            <span className="text-muted">{roleWords(school.roles)}</span>
          </li>
        ))}
      </ul>
      <Button kind="quiet" className="justify-self-start" onClick={() => void leave()}>
        Sign out
      </Button>
    </div>
  )
}
