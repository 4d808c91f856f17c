'use client'
import { useEffect, useRef } from 'react'
import { useWatch } from 'react-hook-form'
import { shortDate } from '@/core/calendar/date-words'
import { addDays, isCivilDate } from '@/core/calendar/school-year'
import { formerPlace } from '@/core/people/former-place'
import { heldOn } from '@/core/people/memberships'
import { spokenName } from '@/core/people/names'
import { proposedClasses } from '@/core/people/proposed-classes'
import { Problem } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'
import { useAnswer } from '@/screen/use-live'
import type { Student } from './record'

interface Values {
  from: string
  yearGroupId: string
  homeroomId: string
  classIds: string[]
  groupIds: string[]
}

const held = (s: Student, kind: string, date: string) =>
  s.places
    .filter((p) => p.kind === kind && p.from <= date && (p.until === null || p.until > date))
    .map((p) => p.id)

/** Where a student belongs from a day on: year group, homeroom and classes; what is left as it is does not change. */
export function MoveDialog({
  s: live,
  date,
  onClose,
  onSaved,
}: {
  s: Student
  date: string
  onClose: () => void
  onSaved: (from: string, run: string | undefined) => void
}) {
  const s = useAtOpening(live)
  const of = useCommandForm('people.place', {
    schema: () => import('@/core/people/inputs').then((m) => m.placeInput),
    values: {
      from: date,
      yearGroupId: held(s, 'year group', date)[0] ?? '',
      homeroomId: held(s, 'homeroom', date)[0] ?? '',
      classIds: held(s, 'class', date),
      groupIds: held(s, 'group', date),
    },
    places: ['from', 'yearGroupId', 'homeroomId', 'join', 'leave'],
    input: ({ from, yearGroupId, homeroomId, classIds, groupIds: grouped }: Values) => {
      const own = held(s, 'class', from)
      const groups = held(s, 'group', from)
      const changed = (kind: string, id: string) => (held(s, kind, from)[0] === id ? null : id || null)
      return {
        students: [{ studentId: s.id, expectedVersion: s.rollVersion }],
        from,
        yearGroupId: changed('year group', yearGroupId),
        homeroomId: changed('homeroom', homeroomId),
        join: classIds.filter((id) => !own.includes(id)),
        leave: own.filter((id) => !classIds.includes(id)),
        joinGroups: grouped.filter((id) => !groups.includes(id)),
        leaveGroups: groups.filter((id) => !grouped.includes(id)),
      }
    },
    onSaved: (_, { from }, run) => onSaved(from, run),
  })
  const { control, setValue } = of.form
  const [from, yearGroupId, homeroomId, classIds, groupIds] = useWatch({
    control,
    name: ['from', 'yearGroupId', 'homeroomId', 'classIds', 'groupIds'],
  })
  const { answer: offer, problem } = useAnswer(
    'people.enrolForm',
    isCivilDate(from) ? { startDate: from } : undefined,
    { keep: true },
  )
  const onRoll = heldOn(
    s.places.filter((p) => p.kind === 'year group').map((p) => ({ ...p, placeId: p.id })),
    date,
  )
  /** A new homeroom brings the classes of its students; those of the old one go. */
  function propose(next: string) {
    if (!offer) return
    const old = proposedClasses(offer, homeroomId)
    const others = classIds.filter((id) => !old.includes(id))
    setValue('classIds', [...new Set([...others, ...proposedClasses(offer, next)])])
  }
  // Who comes back finds the former place filled in, a year group on for each year that has begun since.
  const former = !onRoll && offer ? formerPlace(s.places, offer) : undefined
  const proposed = useRef(false)
  useEffect(() => {
    if (!former || !offer || proposed.current) return
    proposed.current = true
    setValue('yearGroupId', former.yearGroupId)
    setValue('homeroomId', former.homeroomId)
    setValue('classIds', [...proposedClasses(offer, former.homeroomId)])
  }, [former, offer, setValue])
  const classes = (offer?.classes ?? []).filter(
    (c) => (c.yearGroupId === yearGroupId && c.inTerm) || classIds.includes(c.id),
  )
  return (
    <DialogForm
      of={of}
      title={
        onRoll ? `Move ${spokenName(s.fields.sortName)}` : `Enrol ${spokenName(s.fields.sortName)} again`
      }
      description={
        onRoll
          ? 'The change applies from its first day; earlier days are unchanged.'
          : 'The student keeps the number and the whole history.'
      }
      wide
      onClose={onClose}
    >
      {problem && <Problem>{problem}</Problem>}
      <div className="grid gap-4 sm:grid-cols-3">
        <FormDate of={of} name="from" label="First day of the change" />
        {/* A list shows what is chosen only once its choices are there. */}
        <FormSelect
          key={`groups ${offer !== undefined}`}
          of={of}
          name="yearGroupId"
          label="Year group"
          onChange={() => {
            setValue('homeroomId', '')
            setValue('classIds', [])
          }}
        >
          <option value="">Choose</option>
          {offer?.yearGroups.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </FormSelect>
        <FormSelect
          key={`homerooms ${offer !== undefined}`}
          of={of}
          name="homeroomId"
          label="Homeroom"
          onChange={(e) => propose(e.target.value)}
        >
          <option value="">Choose</option>
          {offer?.homerooms
            .filter((h) => h.yearGroupId === yearGroupId)
            .map((h) => (
              <option key={h.id} value={h.id}>
                {h.name}, {h.students} students
              </option>
            ))}
        </FormSelect>
      </div>
      {former && (
        <p className="text-[13px] text-muted">
          Proposed from the former place: {former.was}, until {shortDate(addDays(former.until, -1), true)}.
        </p>
      )}
      <fieldset>
        <legend className="text-[13px] font-bold">Classes</legend>
        {['join', 'leave'].map(
          (path) => of.problem(path) && <Problem key={path}>{of.problem(path)}</Problem>,
        )}
        {classes.length === 0 ? (
          <p className="text-muted">
            {offer ? 'This year group has no classes in this term.' : 'Loading classes'}
          </p>
        ) : (
          <div className="grid gap-x-4 sm:grid-cols-2">
            <ClassTicks
              classes={classes}
              chosen={classIds}
              onChange={(next) => setValue('classIds', next, { shouldDirty: true })}
            />
          </div>
        )}
      </fieldset>
      {offer && offer.groups.length > 0 && (
        <fieldset>
          <legend className="text-[13px] font-bold">Groups</legend>
          <div className="grid gap-x-4 sm:grid-cols-2">
            <ClassTicks
              classes={offer.groups}
              chosen={groupIds}
              onChange={(next) => setValue('groupIds', next, { shouldDirty: true })}
            />
          </div>
        </fieldset>
      )}
    </DialogForm>
  )
}
