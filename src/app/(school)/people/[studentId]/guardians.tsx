'use client'
import { useState } from 'react'
import { languageName } from '@/core/people/languages'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import { GuardianAccess } from './guardian-access'
import { InviteAgain } from './invite-again'
import type { Student } from './record'

const GuardianDialog = later(() => import('./guardian-dialog').then((m) => m.GuardianDialog))

/** Who looks after a student, in the order to call. */
export function Guardians({
  s,
  onSaved,
}: {
  s: Student
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [edited, setEdited] = useState<string>()
  return (
    <section aria-labelledby="guardians">
      <div className="mb-2 flex items-baseline justify-between gap-3 border-b border-ink pb-1">
        <h2 id="guardians">Guardians, in the order to call</h2>
        {s.mayChange && (
          <Button kind="quiet" className="-my-2" onClick={() => setEdited('new')}>
            Add
            <span className="sr-only"> a guardian</span>
          </Button>
        )}
      </div>
      {s.guardians.length === 0 && <p>No guardian has been entered.</p>}
      <ol className="grid gap-3">
        {s.guardians.map((g) => (
          <li key={g.id}>
            <span className="flex items-baseline justify-between gap-3">
              <span>
                <strong>
                  {g.givenName} {g.familyName}
                </strong>
                , {g.relation}
              </span>
              {s.mayChange && (
                <Button kind="quiet" className="-my-1" onClick={() => setEdited(g.id)}>
                  Edit
                  <span className="sr-only">
                    {' '}
                    {g.givenName} {g.familyName}
                  </span>
                </Button>
              )}
            </span>
            <span className="block text-muted">
              {[g.phone, g.email, languageName(g.language), g.address].filter(Boolean).join(', ')}
            </span>
            <span className="block text-muted">
              {g.mayReceiveReports ? 'Receives reports' : 'Does not receive reports'}
              {g.alsoOf && `. Also guardian of ${g.alsoOf}`}
            </span>
            {s.mayChange && g.signsInAs && (
              <GuardianAccess
                studentId={s.id}
                guardianId={g.id}
                name={`${g.givenName} ${g.familyName}`}
                signsInAs={g.signsInAs}
                alsoOf={g.alsoOf}
                onEnded={(words) => onSaved(words, undefined)}
              />
            )}
            {s.mayChange && g.email && !g.signsInAs && (
              <InviteAgain studentId={s.id} guardianId={g.id} name={`${g.givenName} ${g.familyName}`} />
            )}
          </li>
        ))}
      </ol>
      {edited && (
        <GuardianDialog
          s={s}
          guardian={s.guardians.find((g) => g.id === edited)}
          onClose={() => setEdited(undefined)}
          onSaved={(words, run) => {
            setEdited(undefined)
            onSaved(words, run)
          }}
        />
      )}
    </section>
  )
}
