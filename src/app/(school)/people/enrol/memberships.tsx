import { useWatch } from 'react-hook-form'
import { proposedClasses } from '@/core/people/proposed-classes'
import { Problem } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { FormDate, FormSelect } from '@/screen/form/fields'
import type { CommandForm } from '@/screen/form/use-command-form'
import { Legend } from './legend'
import type { EnrolValues, Offer } from './values'

/** From when the student is enrolled, in which homeroom, and in which classes; those of the homeroom are proposed. */
export function Memberships({ offer, of }: { offer: Offer; of: CommandForm<EnrolValues> }) {
  const { form, problem } = of
  const [yearGroupId, homeroomId, classIds] = useWatch({
    control: form.control,
    name: ['yearGroupId', 'homeroomId', 'classIds'],
  })
  const homerooms = offer.homerooms.filter((h) => h.yearGroupId === yearGroupId)
  const classes = offer.classes.filter(
    (c) => c.yearGroupId === yearGroupId && (c.inTerm || classIds.includes(c.id)),
  )
  const propose = (homeroom: string) => form.setValue('classIds', proposedClasses(offer, homeroom))
  return (
    <>
      <fieldset className="grid content-start gap-3">
        <Legend>Enrolment</Legend>
        <FormDate of={of} name="startDate" label="First day of enrolment" />
        <div className="grid grid-cols-2 gap-3">
          <FormSelect
            of={of}
            name="yearGroupId"
            label="Year group"
            onChange={() => {
              form.setValue('homeroomId', '')
              form.setValue('classIds', [])
            }}
          >
            <option value="">Choose</option>
            {offer.yearGroups.map((g) => (
              <option key={g.id} value={g.id}>
                {g.name}
              </option>
            ))}
          </FormSelect>
          <FormSelect of={of} name="homeroomId" label="Homeroom" onChange={(e) => propose(e.target.value)}>
            <option value="">{yearGroupId ? 'Choose' : 'Year group first'}</option>
            {homerooms.map((h) => (
              <option key={h.id} value={h.id}>
                {h.name}, {h.students} students
              </option>
            ))}
          </FormSelect>
        </div>
      </fieldset>
      <fieldset className="grid content-start gap-1">
        <Legend>Classes</Legend>
        {problem('classIds') && <Problem>{problem('classIds')}</Problem>}
        {!homeroomId ? (
          <p className="text-muted">Choose a homeroom to see its classes here.</p>
        ) : (
          <div className="grid grid-cols-2">
            <ClassTicks
              classes={classes}
              chosen={classIds}
              detail={(c) => (c.inTerm ? undefined : `runs in ${c.terms} only`)}
              onChange={(next) => form.setValue('classIds', next, { shouldDirty: true })}
            />
          </div>
        )}
      </fieldset>
    </>
  )
}
