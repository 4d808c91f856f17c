'use client'
import { useWatch } from 'react-hook-form'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate } from '@/core/calendar/school-year'
import { numberWords } from '@/core/people/student-number'
import { Tick } from '@/ui/field'
import type { QueryOutput } from '@/server/registry'
import type { CommandForm } from '@/screen/form/use-command-form'
import Link from '@/screen/link'
import { useAnswer } from '@/screen/use-live'
import type { EnrolValues } from './values'

type Alike = QueryOutput<'people.possibleDuplicates'>[number]

/** One student on record, with what tells whether it is the one meant, and the way back for who left. */
function OnRecord({ d }: { d: Alike }) {
  const place = d.leftOn
    ? `left on ${shortDate(d.leftOn, true)}${d.lastPlace ? ` from ${d.lastPlace}` : ''}`
    : d.lastPlace
  const facts = [
    d.birthDate && `born ${shortDate(d.birthDate, true)}`,
    d.number === null ? 'accepted, not enrolled' : `no. ${numberWords(d.number)}`,
    place,
    d.address,
  ]
  return (
    <li>
      <a className="link" target="_blank" rel="noreferrer" href={`/people/${d.id}`}>
        {d.sortName}
      </a>
      , {facts.filter(Boolean).join(', ')}
      {d.leftOn && (
        <>
          .{' '}
          <Link className="link" href={`/people/${d.id}?act=again`}>
            Enrol again<span className="sr-only">, {d.sortName}</span>
          </Link>
          , with the same number and the whole history
        </>
      )}
    </li>
  )
}

/**
 * Shows students who may be the same as soon as name and birth date are typed. Where both are the same, asks whether
 * this is a different one.
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
  const isSame = alike.some((d) => d.alike === 'same')
  return (
    <div className="hint grid gap-2" role="alert">
      <p>
        <strong>Is this student already on record?</strong>{' '}
        {isSame ? 'Same name and birth date:' : 'Similar name or birth date:'}
      </p>
      <ul>
        {alike.map((d) => (
          <OnRecord key={d.id} d={d} />
        ))}
      </ul>
      {isSame && <Tick label="This is a different student" {...of.form.register('notADuplicate')} />}
    </div>
  )
}
