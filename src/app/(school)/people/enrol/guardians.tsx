'use client'
import { useFieldArray, useWatch } from 'react-hook-form'
import { limits } from '@/core/limits'
import { FormText } from '@/screen/form/fields'
import type { CommandForm } from '@/screen/form/use-command-form'
import { Button } from '@/ui/button'
import { Legend } from './legend'
import { guardianValues, type EnrolValues } from './values'

type Place = 'guardian' | `guardians.${number}`

/** The fields of one guardian. */
function GuardianFields({ of, place, title }: { of: CommandForm<EnrolValues>; place: Place; title: string }) {
  return (
    <div className="grid gap-3" role="group" aria-label={title}>
      <div className="grid grid-cols-2 gap-3">
        <FormText of={of} name={`${place}.givenName`} label="Given name" />
        <FormText of={of} name={`${place}.familyName`} label="Family name" />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <FormText
          of={of}
          name={`${place}.relation`}
          label="Relation"
          help="For example mother, father, foster parent"
        />
        <FormText of={of} name={`${place}.phone`} label="Telephone" type="tel" />
      </div>
      <FormText
        of={of}
        name={`${place}.email`}
        label="E-mail"
        help="For messages about reports, and for signing in"
        type="email"
      />
    </div>
  )
}

/** The guardians of the student who is enrolled, in the order in which they are called. */
export function Guardians({ of }: { of: CommandForm<EnrolValues> }) {
  // A guardian's own `id` is the record's.
  const more = useFieldArray({ control: of.form.control, name: 'guardians', keyName: 'key' })
  const siblingId = useWatch({ control: of.form.control, name: 'siblingId' })
  return (
    <fieldset className="grid content-start gap-3">
      <Legend>{more.fields.length > 0 ? 'Guardians' : 'Guardian'}</Legend>
      {siblingId && (
        <p className="text-muted">
          Who was taken over is on record already: what you correct here is corrected for every child.
        </p>
      )}
      <GuardianFields of={of} place="guardian" title="First guardian" />
      {more.fields.map((field, i) => (
        <div key={field.key} className="grid gap-3 border-t border-line pt-3">
          <div className="flex items-baseline justify-between">
            <h3>Guardian {i + 2}</h3>
            <Button kind="plain" onClick={() => more.remove(i)}>
              Remove<span className="sr-only"> guardian {i + 2}</span>
            </Button>
          </div>
          <GuardianFields of={of} place={`guardians.${i}`} title={`Guardian ${i + 2}`} />
        </div>
      ))}
      {more.fields.length < limits.guardiansAtOnce && (
        <div>
          <Button
            kind="plain"
            onClick={() =>
              more.append(guardianValues(), {
                focusName: `guardians.${more.fields.length}.givenName`,
              })
            }
          >
            Add another guardian
          </Button>
        </div>
      )}
    </fieldset>
  )
}
