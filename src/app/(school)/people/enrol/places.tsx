import { Field, Problem, Select } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { DateInput } from '@/screen/date-input'
import { Legend } from './legend'
import { proposedClasses, type EnrolValues, type Offer } from './values'

/** From when the student is here, in which homeroom, and in which classes; those of the homeroom are proposed. */
export function Places({
  offer,
  values,
  change,
  problem,
}: {
  offer: Offer
  values: EnrolValues
  change: (part: Partial<EnrolValues>) => void
  problem: (path: string) => string | undefined
}) {
  const homerooms = offer.homerooms.filter((h) => h.yearGroupId === values.yearGroupId)
  const classes = offer.classes.filter(
    (c) => c.yearGroupId === values.yearGroupId && (c.inTerm || values.classIds.includes(c.id)),
  )
  return (
    <>
      <fieldset className="grid content-start gap-3">
        <Legend>Where and from when</Legend>
        <Field
          label="Start date"
          help="On every list from this day on, not before"
          problem={problem('startDate')}
        >
          {(f) => <DateInput {...f} value={values.startDate} onChange={(to) => change({ startDate: to })} />}
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
        <Legend>Classes</Legend>
        {problem('classIds') && <Problem>{problem('classIds')}</Problem>}
        {!values.homeroomId ? (
          <p className="text-muted">Choose a homeroom, and its classes are proposed here.</p>
        ) : (
          <div className="grid grid-cols-2">
            <ClassTicks
              classes={classes}
              chosen={values.classIds}
              detail={(c) => (c.inTerm ? undefined : `runs in ${c.terms} only`)}
              onChange={(classIds) => change({ classIds })}
            />
          </div>
        )}
      </fieldset>
    </>
  )
}
