'use client'
import { DateInput } from '@/screen/date-input'
import Link from '@/screen/link'
import { useEffect, useRef, useState, type FormEvent } from 'react'
import { isCivilDate } from '@/core/calendar/school-year'
import { Button } from '@/ui/button'
import { Field, Problem, TextInput } from '@/ui/field'
import { PageHead } from '@/screen/page-head'
import { askServer, newKey, tellServer, type CallFailure } from '@/screen/server'
import { useDraft } from '@/screen/use-draft'
import { Duplicates, useDuplicates } from './duplicates'
import { EnrolledPage, type Enrolled } from './enrolled'
import { Legend } from './legend'
import { Places } from './places'
import { beginning, type Applicant, type Guardian, type Offer } from './values'

/** Enrols a student: who it is, where and from when, and a first guardian. */
export function EnrolForm({
  offer: initialOffer,
  applicant,
  guardian,
  startDate,
}: {
  offer: Offer
  applicant: Applicant | null
  guardian: Guardian | undefined
  startDate: string
}) {
  const [offer, setOffer] = useState(initialOffer)
  const [values, change, forget] = useDraft(
    `enrol.${applicant?.id ?? 'new'}`,
    beginning(initialOffer, applicant, guardian, startDate),
  )
  const [failure, setFailure] = useState<CallFailure>()
  const [notADuplicate, setNotADuplicate] = useState(false)
  const [busy, setBusy] = useState(false)
  const [done, setDone] = useState<Enrolled>()
  const key = useRef(newKey())

  // Homerooms and classes belong to the term of the start date.
  useEffect(() => {
    if (!isCivilDate(values.startDate)) return
    let late = false
    void askServer('people.enrolForm', { startDate: values.startDate }).then((result) => {
      if (!late && result.ok) setOffer(result.value)
    })
    return () => {
      late = true
    }
  }, [values.startDate])

  const { givenName, familyName, birthDate } = values
  const alike = useDuplicates({ givenName, familyName, birthDate }, applicant?.id)

  const fields = failure?.kind === 'invalid' ? failure.fields : []
  const problem = (path: string) => fields.find((f) => f.path === path)?.message
  const text = (name: keyof typeof values) => ({
    value: values[name] as string,
    onChange: (e: { target: { value: string } }) => change({ [name]: e.target.value }),
  })
  async function submit(event: FormEvent) {
    event.preventDefault()
    setBusy(true)
    const result = await tellServer(
      'people.enrol',
      {
        applicantId: applicant?.id ?? null,
        givenName,
        familyName,
        preferredName: values.preferredName,
        birthDate,
        address: values.address,
        yearGroupId: values.yearGroupId,
        homeroomId: values.homeroomId,
        classIds: values.classIds,
        startDate: values.startDate,
        guardian: {
          id: values.guardianId,
          givenName: values.guardianGivenName,
          familyName: values.guardianFamilyName,
          relation: values.relation,
          email: values.email,
          phone: values.phone,
        },
        notADuplicate,
      },
      key.current,
    )
    setBusy(false)
    if (!result.ok) {
      setFailure(result.failure)
      requestAnimationFrame(() => document.querySelector<HTMLElement>('[aria-invalid=true]')?.focus())
      return
    }
    forget()
    setDone({
      ...result.value,
      name: `${values.preferredName || givenName} ${familyName}`,
      homeroomId: values.homeroomId,
      homeroom: offer.homerooms.find((h) => h.id === values.homeroomId)?.name ?? '',
      classes: values.classIds.length,
      from: values.startDate,
      email: values.email,
    })
  }

  if (done) return <EnrolledPage student={done} />
  if (!offer.year)
    return (
      <div className="sheet max-w-2xl">
        <PageHead title="Enrol a student" />
        <p>
          Students are enrolled into an academic year, and there is none yet.{' '}
          <Link className="link" href="/school-year">
            Make one under School year
          </Link>
          .
        </p>
      </div>
    )
  return (
    <form onSubmit={(e) => void submit(e)} noValidate className="sheet max-w-4xl">
      <PageHead
        title="Enrol a student"
        detail={`${offer.year.name}${offer.term ? `, ${offer.term.name} term` : ''}`}
      />
      {!applicant && offer.expected.length > 0 && (
        <p className="hint mb-4">
          Accepted and expected:{' '}
          {offer.expected.map((e) => (
            <a key={e.id} className="link mr-3" href={`/people/enrol?applicant=${e.id}`}>
              {e.sortName}
            </a>
          ))}{' '}
          Begin from there, and what is known is filled in.
        </p>
      )}
      {failure && (
        <div className="mb-4">
          <Problem>
            {failure.kind === 'invalid'
              ? `Nothing was saved. ${fields.length === 1 ? 'One field needs another look and says' : `${fields.length} fields need another look and say`} what is wrong.`
              : failure.message}
          </Problem>
        </div>
      )}
      <div className="grid gap-x-10 gap-y-6 md:grid-cols-2">
        <fieldset className="grid content-start gap-3">
          <Legend>Who</Legend>
          <div className="grid grid-cols-2 gap-3">
            <Field label="Legal given name" problem={problem('givenName')}>
              {(f) => <TextInput {...f} {...text('givenName')} autoFocus />}
            </Field>
            <Field label="Legal family name" problem={problem('familyName')}>
              {(f) => <TextInput {...f} {...text('familyName')} />}
            </Field>
          </div>
          <div className="grid grid-cols-2 gap-3">
            <Field label="Preferred name" help="Empty when the same" problem={problem('preferredName')}>
              {(f) => <TextInput {...f} {...text('preferredName')} />}
            </Field>
            <Field label="Birth date" problem={problem('birthDate')}>
              {(f) => <DateInput {...f} value={birthDate} onChange={(to) => change({ birthDate: to })} />}
            </Field>
          </div>
          <Field label="Address" problem={problem('address')}>
            {(f) => <TextInput {...f} {...text('address')} />}
          </Field>
          <Duplicates alike={alike} isSomebodyElse={notADuplicate} onChange={setNotADuplicate} />
        </fieldset>
        <fieldset className="grid content-start gap-3">
          <Legend>Guardian</Legend>
          <div className="grid grid-cols-2 gap-3">
            <Field label="Given name" problem={problem('guardian.givenName')}>
              {(f) => <TextInput {...f} {...text('guardianGivenName')} />}
            </Field>
            <Field label="Family name" problem={problem('guardian.familyName')}>
              {(f) => <TextInput {...f} {...text('guardianFamilyName')} />}
            </Field>
          </div>
          <div className="grid grid-cols-2 gap-3">
            <Field
              label="Relation"
              help="mother, father, foster parent"
              problem={problem('guardian.relation')}
            >
              {(f) => <TextInput {...f} {...text('relation')} />}
            </Field>
            <Field label="Telephone" problem={problem('guardian.phone')}>
              {(f) => <TextInput {...f} type="tel" {...text('phone')} />}
            </Field>
          </div>
          <Field
            label="E-mail"
            help="Reports are announced here, and it becomes the user name"
            problem={problem('guardian.email')}
          >
            {(f) => <TextInput {...f} type="email" {...text('email')} />}
          </Field>
        </fieldset>
        <Places offer={offer} values={values} change={change} problem={problem} />
      </div>
      <footer className="sticky bottom-0 mt-6 flex gap-3 border-t border-ink bg-paper py-3 no-print">
        <Button type="submit" busy={busy}>
          Enrol
        </Button>
        <Link className="link self-center" href="/people" onClick={forget}>
          Give up
        </Link>
      </footer>
    </form>
  )
}
