'use client'
import { useEffect, useState } from 'react'
import { useWatch } from 'react-hook-form'
import { isCivilDate } from '@/core/calendar/school-year'
import { Button } from '@/ui/button'
import { FormDate, FormProblems, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useDraft } from '@/screen/use-draft'
import { useAnswer } from '@/screen/use-live'
import { Duplicates } from './duplicates'
import { EnrolledPage, type Enrolled } from './enrolled'
import { Family } from './family'
import { Guardians } from './guardians'
import { Legend } from './legend'
import { Memberships } from './memberships'
import { beginning, type Applicant, type EnrolValues, type Guardian, type Offer } from './values'

const places = [
  'givenName',
  'familyName',
  'preferredName',
  'birthDate',
  'address',
  'yearGroupId',
  'homeroomId',
  'classIds',
  'startDate',
  'guardians',
  ...['guardian', 'guardians.0', 'guardians.1', 'guardians.2', 'guardians.3'].flatMap((place) =>
    ['givenName', 'familyName', 'relation', 'email', 'phone'].map((name) => `${place}.${name}`),
  ),
]

/** Enrols a student: who it is, where and from when, and a first guardian. */
export function EnrolForm({
  offer: initialOffer,
  applicant,
  guardians,
  startDate,
}: {
  offer: Offer
  applicant: Applicant | null
  guardians: readonly Guardian[]
  startDate: string
}) {
  const [done, setDone] = useState<Enrolled>()
  const [draft, keepDraft] = useDraft<EnrolValues>(`enrol.${applicant?.id ?? 'new'}`)
  const of = useCommandForm('people.enrol', {
    schema: () => import('@/core/people/inputs').then((m) => m.enrolInput),
    values: beginning(initialOffer, applicant, guardians, startDate),
    places,
    input: (values: EnrolValues) => ({ applicantId: applicant?.id ?? null, ...values }),
    onSaved: (enrolled, values) => {
      keepDraft(undefined)
      setDone({
        ...enrolled,
        name: `${values.preferredName || values.givenName} ${values.familyName}`,
        homeroomId: values.homeroomId,
        homeroom: offer.homerooms.find((h) => h.id === values.homeroomId)?.name ?? '',
        classes: values.classIds.length,
        from: values.startDate,
        emails: [values.guardian, ...values.guardians].map((g) => g.email).filter(Boolean),
      })
    },
  })
  const { form } = of
  useEffect(() => {
    if (draft) form.reset(draft)
  }, [draft, form])
  useEffect(() => {
    const { unsubscribe } = form.watch((values, { name }) => {
      keepDraft(values as EnrolValues)
      // Another name or birth date is another question.
      if (name === 'givenName' || name === 'familyName' || name === 'birthDate')
        form.setValue('notADuplicate', false)
    })
    return unsubscribe
  }, [form, keepDraft])

  // Homerooms and classes belong to the term of the start date.
  const start = useWatch({ control: form.control, name: 'startDate' })
  const { answer: offer = initialOffer } = useAnswer(
    'people.enrolForm',
    isCivilDate(start) && start !== startDate ? { startDate: start } : undefined,
    { keep: true },
  )

  if (done) return <EnrolledPage student={done} />
  if (!offer.year)
    return (
      <div className="sheet reading">
        <PageHead title="Enrol a student" />
        <p>
          Students are enrolled into an academic year, and there is none yet.{' '}
          <Link className="link" href="/school/year">
            Create the academic year
          </Link>
          .
        </p>
      </div>
    )
  return (
    <form method="post" onSubmit={of.submit} noValidate className="sheet reading">
      <PageHead
        title="Enrol a student"
        detail={`${offer.year.name}${offer.term ? `, ${offer.term.name} term` : ''}`}
      />
      {!applicant && offer.expected.length > 0 && (
        <p className="hint mb-4">
          Accepted and expected:{' '}
          {offer.expected.map((e) => (
            <Link key={e.id} className="link mr-3" href={`/people/enrol?applicant=${e.id}`}>
              {e.sortName}
            </Link>
          ))}{' '}
          Select an applicant to fill in what is known.
        </p>
      )}
      <div className="mb-4">
        <FormProblems of={of} summary />
      </div>
      <div className="grid gap-x-10 gap-y-6 md:grid-cols-2">
        <fieldset className="grid content-start gap-3">
          <Legend>Student</Legend>
          <div className="grid grid-cols-2 gap-3">
            <FormText of={of} name="givenName" label="Legal given name" autoFocus />
            <FormText of={of} name="familyName" label="Legal family name" />
          </div>
          <div className="grid grid-cols-2 gap-3">
            <FormText
              of={of}
              name="preferredName"
              label="Preferred name"
              help="Leave empty if it is the same"
            />
            <FormDate of={of} name="birthDate" label="Birth date" />
          </div>
          <FormText of={of} name="address" label="Address" />
          <Duplicates of={of} except={applicant?.id} />
          <Family of={of} offer={offer} />
        </fieldset>
        <Guardians of={of} />
        <Memberships offer={offer} of={of} />
      </div>
      <footer className="sticky bottom-0 mt-6 flex gap-3 border-t border-ink bg-paper py-3 no-print">
        <Button type="submit" busy={of.busy}>
          Enrol
        </Button>
        <Link className="link self-center" href="/people" onClick={() => keepDraft(undefined)}>
          Cancel
        </Link>
      </footer>
    </form>
  )
}
