'use client'
import { useEffect, useState } from 'react'
import { isCivilDate } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { Tick } from '@/ui/field'
import { askServer } from '@/screen/server'

type Duplicate = QueryOutput<'people.possibleDuplicates'>[number]

/**
 * Students with the same name and birth date, as soon as both are typed, long before saving.
 * @param except the applicant being enrolled, who is no duplicate
 */
export function useDuplicates(
  { givenName, familyName, birthDate }: { givenName: string; familyName: string; birthDate: string },
  except: string | undefined,
): readonly Duplicate[] {
  const [alike, setAlike] = useState<readonly Duplicate[]>([])
  useEffect(() => {
    if (!givenName.trim() || !familyName.trim() || !isCivilDate(birthDate)) return setAlike([])
    let late = false
    const timer = setTimeout(() => {
      void askServer('people.possibleDuplicates', { givenName, familyName, birthDate }).then((result) => {
        if (!late && result.ok) setAlike(result.value.filter((d) => d.id !== except))
      })
    }, 200)
    return () => {
      late = true
      clearTimeout(timer)
    }
  }, [givenName, familyName, birthDate, except])
  return alike
}

/** Shows who is there already, and asks whether this is somebody else. */
export function Duplicates({
  alike,
  isSomebodyElse,
  onChange,
}: {
  alike: readonly Duplicate[]
  isSomebodyElse: boolean
  onChange: (isSomebodyElse: boolean) => void
}) {
  if (alike.length === 0) return null
  return (
    <div className="hint grid gap-2" role="alert">
      <p>
        <strong>Is this somebody you have already?</strong> Same name and birth date:
      </p>
      <ul>
        {alike.map((d) => (
          <li key={d.id}>
            <a className="link" target="_blank" rel="noreferrer" href={`/people/${d.id}`}>
              {d.sortName}
            </a>
            , {d.number === null ? 'accepted, not enrolled' : `no. ${String(d.number).padStart(4, '0')}`}
            {d.address && `, ${d.address}`}
          </li>
        ))}
      </ul>
      <Tick
        label="I have looked: this is somebody else"
        checked={isSomebodyElse}
        onChange={(e) => onChange(e.target.checked)}
      />
    </div>
  )
}
