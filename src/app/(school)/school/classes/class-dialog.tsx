'use client'
import { useWatch } from 'react-hook-form'
import { Tick } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { ChooseStaff, namesOf } from '@/app/(school)/school/structure/choose-staff'
import { RoomSelect } from '@/app/(school)/school/structure/room-select'
import type { SchoolClass, Structure } from '@/app/(school)/school/structure/use-structure'

interface Values {
  name: string
  subjectId: string
  yearGroupId: string
  scaleId: string
  roomId: string
  termIds: string[]
  staffIds: string[]
  homeroomIds: string[]
  from: string
}

/** The day a new class begins: today, or the first day of the year's terms while that is in the future. */
const firstDay = (s: Structure, date: string) => {
  const begins = s.year?.terms[0]?.firstDay ?? date
  return date < begins ? begins : date
}

const valuesOf = (s: Structure, edited: SchoolClass | undefined, date: string): Values => ({
  name: edited?.name ?? '',
  subjectId: edited?.subjectId ?? '',
  yearGroupId: edited?.yearGroupId ?? '',
  scaleId: edited?.scaleId ?? s.scales[0]?.id ?? '',
  roomId: edited?.roomId ?? '',
  termIds: [...(edited?.termIds ?? s.year?.terms.map((t) => t.id) ?? [])],
  staffIds: [...(edited?.staffIds ?? [])],
  homeroomIds: [...(edited?.homeroomIds ?? [])],
  from: firstDay(s, date),
})

/** Several to tick, such as terms. */
function Ticks({
  legend,
  choices,
  chosen,
  problem,
  onChange,
}: {
  legend: string
  choices: readonly { readonly id: string; readonly name: string }[]
  chosen: readonly string[]
  problem?: string
  onChange: (ids: string[]) => void
}) {
  return (
    <fieldset>
      <legend className="text-[13px] font-bold">{legend}</legend>
      {problem && (
        <p role="alert" className="text-[13px] text-port">
          <span aria-hidden>▲ </span>
          {problem}
        </p>
      )}
      <div className="flex flex-wrap gap-x-5">
        {choices.map((c) => (
          <Tick
            key={c.id}
            label={c.name}
            checked={chosen.includes(c.id)}
            onChange={(e) =>
              onChange(e.target.checked ? [...chosen, c.id] : chosen.filter((x) => x !== c.id))
            }
          />
        ))}
      </div>
    </fieldset>
  )
}

/** A class: subject and year group, terms, grading scale, teachers, and the homerooms whose students are in it. */
export function ClassDialog({
  s,
  edited,
  date,
  onClose,
  onSaved,
}: {
  s: Structure
  edited: SchoolClass | undefined
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('setUp.saveClass', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.classInput),
    values: valuesOf(s, edited, date),
    edited,
    places: Object.keys(valuesOf(s, edited, date)),
    input: (v: Values) => ({
      ...v,
      classId: edited?.id ?? null,
      expectedVersion: edited?.version ?? 0,
      yearId: s.year?.id ?? '',
    }),
    onSaved: ({ students }, v, run) =>
      onSaved(
        edited
          ? `${v.name} was saved.`
          : `${v.name} was added with ${students === 1 ? '1 student' : `${students} students`}.`,
        run,
      ),
  })
  const { control, setValue } = of.form
  const [yearGroupId, termIds, staffIds, homeroomIds] = useWatch({
    control,
    name: ['yearGroupId', 'termIds', 'staffIds', 'homeroomIds'],
  })
  const set = (name: 'termIds' | 'staffIds' | 'homeroomIds') => (ids: string[]) =>
    setValue(name, ids, { shouldDirty: true })
  const rooms = s.homerooms.filter((h) => h.yearGroupId === yearGroupId || homeroomIds.includes(h.id))
  return (
    <DialogForm
      of={of}
      title={edited ? edited.name : 'Add a class'}
      wide
      save={edited ? 'Save' : 'Add'}
      onClose={onClose}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        <FormText of={of} name="name" label="Name" placeholder="7 Science A" />
        <FormSelect of={of} name="scaleId" label="Grading scale">
          {s.scales.map((scale) => (
            <option key={scale.id} value={scale.id}>
              {scale.name}
            </option>
          ))}
        </FormSelect>
        <FormSelect of={of} name="subjectId" label="Subject">
          <option value="">Choose</option>
          {s.subjects.map((subject) => (
            <option key={subject.id} value={subject.id}>
              {subject.name}
            </option>
          ))}
        </FormSelect>
        <FormSelect
          of={of}
          name="yearGroupId"
          label="Year group"
          onChange={() => setValue('homeroomIds', [])}
        >
          <option value="">Choose</option>
          {s.yearGroups.map((group) => (
            <option key={group.id} value={group.id}>
              {group.name}
            </option>
          ))}
        </FormSelect>
      </div>
      <RoomSelect of={of} s={s} />
      <Ticks
        legend="Terms"
        choices={s.year?.terms ?? []}
        chosen={termIds}
        problem={of.problem('termIds')}
        onChange={set('termIds')}
      />
      <Theirs of={of} name="termIds" label="the terms" words={(ids) => namesOf(s.year?.terms ?? [], ids)} />
      <div className="grid gap-4 sm:grid-cols-2">
        <ChooseStaff
          label="Teachers"
          staff={s.staff}
          chosen={staffIds}
          problem={of.problem('staffIds')}
          onChange={set('staffIds')}
        />
        <Theirs of={of} name="staffIds" label="the teachers" words={(ids) => namesOf(s.staff, ids)} />
        <FormDate of={of} name="from" label={edited ? 'Teachers from' : 'Teachers and students from'} />
      </div>
      {rooms.length > 0 && (
        <Ticks
          legend={
            edited
              ? 'Homerooms whose new students are proposed this class'
              : 'Homerooms whose students are in the class'
          }
          choices={rooms}
          chosen={homeroomIds}
          onChange={set('homeroomIds')}
        />
      )}
      <Theirs of={of} name="homeroomIds" label="the homerooms" words={(ids) => namesOf(s.homerooms, ids)} />
    </DialogForm>
  )
}
