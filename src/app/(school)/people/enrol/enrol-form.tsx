'use client'
import { DateInput } from '../../../shared/date-input'
import Link from '../../../shared/link'
import { useEffect, useRef, useState, type FormEvent } from 'react'
import { isCivilDate } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Field, Problem, Select, TextInput, Tick } from '@/ui/field'
import { PageHead } from '../../../shared/page-head'
import { askServer, newKey, tellServer, type CallFailure } from '../../../shared/server'
import { useDraft } from '../../../shared/use-draft'
import { Duplicates, useDuplicates } from './duplicates'
import { EnrolledPage, type Enrolled } from './enrolled'

type Offer = QueryOutput<'people.enrolForm'>
type Applicant = Offer['expected'][number]
type Guardian = QueryOutput<'people.applicantGuardians'>[number]

function beginning(
  offer: Offer,
  applicant: Applicant | null,
  guardian: Guardian | undefined,
  startDate: string,
) {
  const homeroomId = applicant?.expected_in ?? ''
  return {
    givenName: applicant?.legal_given_name ?? '',
    familyName: applicant?.legal_family_name ?? '',
    preferredName: applicant?.preferred_name ?? '',
    birthDate: applicant?.birth_date ?? '',
    address: '',
    yearGroupId: applicant?.accepted_for ?? '',
    homeroomId,
    classIds: proposedClasses(offer, homeroomId),
    startDate,
    guardianGivenName: guardian?.given_name ?? '',
    guardianFamilyName: guardian?.family_name ?? '',
    relation: guardian?.relation ?? '',
    email: guardian?.email ?? '',
    phone: guardian?.phone ?? '',
  }
}

function proposedClasses(offer: Offer, homeroomId: string): string[] {
  const inTerm = new Set(offer.classes.filter((c) => c.in_term).map((c) => c.id))
  return offer.proposed
    .filter((p) => p.homeroom_id === homeroomId && inTerm.has(p.class_id))
    .map((p) => p.class_id)
}

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
  const homerooms = offer.homerooms.filter((h) => h.year_group_id === values.yearGroupId)
  const classes = offer.classes.filter(
    (c) => c.year_group_id === values.yearGroupId && (c.in_term || values.classIds.includes(c.id)),
  )

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
      homeroom: homerooms.find((h) => h.id === values.homeroomId)?.name ?? '',
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
  const section = 'mb-3 border-b border-ink pb-1'
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
              {e.sort_name}
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
          <legend className={`w-full ${section}`}>
            <h2>Who</h2>
          </legend>
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
          <legend className={`w-full ${section}`}>
            <h2>Guardian</h2>
          </legend>
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
        <fieldset className="grid content-start gap-3">
          <legend className={`w-full ${section}`}>
            <h2>Where and from when</h2>
          </legend>
          <Field
            label="Start date"
            help="On every list from this day on, not before"
            problem={problem('startDate')}
          >
            {(f) => (
              <DateInput {...f} value={values.startDate} onChange={(to) => change({ startDate: to })} />
            )}
          </Field>
          <div className="grid grid-cols-2 gap-3">
            <Field label="Year group" problem={problem('yearGroupId') && 'Choose a year group.'}>
              {(f) => (
                <Select
                  {...f}
                  value={values.yearGroupId}
                  onChange={(e) => change({ yearGroupId: e.target.value, homeroomId: '', classIds: [] })}
                >
                  <option value="">Choose</option>
                  {offer.yearGroups.map((g) => (
                    <option key={g.id} value={g.id}>
                      {g.name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            <Field
              label="Homeroom"
              problem={
                problem('homeroomId') && (values.homeroomId ? problem('homeroomId') : 'Choose a homeroom.')
              }
            >
              {(f) => (
                <Select
                  {...f}
                  value={values.homeroomId}
                  disabled={!values.yearGroupId}
                  onChange={(e) =>
                    change({ homeroomId: e.target.value, classIds: proposedClasses(offer, e.target.value) })
                  }
                >
                  <option value="">{values.yearGroupId ? 'Choose' : 'Year group first'}</option>
                  {homerooms.map((h) => (
                    <option key={h.id} value={h.id}>
                      {h.name}, {h.students} students
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          </div>
        </fieldset>
        <fieldset className="grid content-start gap-1">
          <legend className={`w-full ${section}`}>
            <h2>Classes</h2>
          </legend>
          {problem('classIds') && <Problem>{problem('classIds')}</Problem>}
          {!values.homeroomId ? (
            <p className="text-muted">Choose a homeroom, and its classes are proposed here.</p>
          ) : (
            <div className="grid grid-cols-2">
              {classes.map((c) => (
                <Tick
                  key={c.id}
                  label={c.name}
                  detail={c.in_term ? undefined : `runs in ${c.terms} only`}
                  checked={values.classIds.includes(c.id)}
                  onChange={(e) =>
                    change({
                      classIds: e.target.checked
                        ? [...values.classIds, c.id]
                        : values.classIds.filter((x) => x !== c.id),
                    })
                  }
                />
              ))}
            </div>
          )}
        </fieldset>
      </div>
      <p className="mt-6 flex gap-3">
        <Button type="submit" busy={busy}>
          Enrol
        </Button>
        <Link className="link self-center" href="/people" onClick={forget}>
          Give up
        </Link>
      </p>
    </form>
  )
}
