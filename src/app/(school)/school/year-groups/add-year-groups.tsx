'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Field, TextArea } from '@/ui/field'
import { FormProblems, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { lines } from '@/screen/form/lines'

/** Adds year groups in order, with the same homerooms in each. */
export function AddYearGroups({ yearId, onSaved }: { yearId: string; onSaved: () => void }) {
  const [added, setAdded] = useState('')
  const of = useCommandForm('year.addYearGroups', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.yearGroupsInput),
    values: { names: '', homerooms: '' },
    places: ['names', 'homerooms'],
    input: (v: { names: string; homerooms: string }) => ({
      yearId,
      names: lines(v.names),
      homerooms: lines(v.homerooms),
    }),
    onSaved: ({ yearGroups, homerooms }) => {
      setAdded(
        `${yearGroups} year groups and ${homerooms} homerooms added. You can now enrol students under People.`,
      )
      of.form.setValue('names', '')
      onSaved()
    },
  })
  const problem = (path: string) => of.problem(path) ?? of.problem(`${path}.0`)
  return (
    <form
      method="post"
      onSubmit={of.submit}
      noValidate
      className="grid max-w-2xl gap-4 border border-rule bg-panel p-4"
    >
      <FormProblems of={of} />
      {added && <p role="status">{added}</p>}
      <div className="grid gap-4 sm:grid-cols-2">
        <Field
          label="Year groups"
          help="One per line or separated by commas, youngest first"
          problem={problem('names')}
        >
          {(field) => <TextArea {...field} rows={4} {...of.form.register('names')} />}
        </Field>
        <FormText
          of={of}
          name="homerooms"
          label="Homerooms in each"
          help="For example Tern, Skua. Year 7 gets 7 Tern and 7 Skua."
        />
      </div>
      <p>
        <Button type="submit" busy={of.busy}>
          Add year groups
        </Button>
      </p>
    </form>
  )
}
