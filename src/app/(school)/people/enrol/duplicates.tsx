'use client'
import { useWatch } from 'react-hook-form'
import { isCivilDate } from '@/core/calendar/school-year'
import { numberWords } from '@/core/people/student-number'
import { Tick } from '@/ui/field'
import type { CommandForm } from '@/screen/form/use-command-form'
import { useAnswer } from '@/screen/use-live'
import type { EnrolValues } from './values'

/**
 * Shows students with the same name and birth date as soon as both are typed, and asks whether this is a different one.
 * @param except the applicant being enrolled, who is no duplicate
 */
export function Duplicates({ of, except }: { of: CommandForm<EnrolValues>; except: string | undefined }) {
  const [givenName, familyName, birthDate] = useWatch({
    control: of.form.control,
    name: ['givenName', 'familyName', 'birthDate'],
  })
  const complete = givenName.trim() && familyName.trim() && isCivilDate(birthDate)
  const { answer = [] } = useAnswer(
    'people.possibleDuplicates',
    complete ? { givenName, familyName, birthDate } : undefined,
    { after: 200 },
  )
  const alike = complete ? answer.filter((d) => d.id !== except) : []
  if (alike.length === 0) return null
  return (
    <div className="hint grid gap-2" role="alert">
      <p>
        <strong>Is this student already enrolled?</strong> Same name and birth date:
      </p>
      <ul>
        {alike.map((d) => (
          <li key={d.id}>
            <a className="link" target="_blank" rel="noreferrer" href={`/people/${d.id}`}>
              {d.sortName}
            </a>
            , {d.number === null ? 'accepted, not enrolled' : `no. ${numberWords(d.number)}`}
            {d.address && `, ${d.address}`}
          </li>
        ))}
      </ul>
      <Tick label="This is a different student" {...of.form.register('notADuplicate')} />
    </div>
  )
}
