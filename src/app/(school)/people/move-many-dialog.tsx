'use client'
import { useWatch } from 'react-hook-form'
import { isCivilDate } from '@/core/calendar/school-year'
import { proposedClasses } from '@/core/people/proposed-classes'
import { Problem, Tick } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect } from '@/screen/form/fields'
import { useCommandForm, type CommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'
import { useAnswer } from '@/screen/use-live'
import type { Student } from './people'

interface Values {
  from: string
  homeroomId: string
  withClasses: boolean
  join: string[]
  leave: string[]
  joinGroups: string[]
  leaveGroups: string[]
}

/** Changes homeroom and classes of several students in one act, from a day on. */
export function MoveManyDialog({
  students: live,
  date,
  onClose,
  onSaved,
}: {
  students: readonly Student[]
  date: string
  onClose: () => void
  onSaved: (from: string, run: string | undefined) => void
}) {
  const students = useAtOpening(live)
  const of: CommandForm<Values> = useCommandForm('people.place', {
    schema: () => import('@/core/people/inputs').then((m) => m.placeInput),
    values: {
      from: date,
      homeroomId: '',
      withClasses: true,
      join: [],
      leave: [],
      joinGroups: [],
      leaveGroups: [],
    } as Values,
    places: ['from', 'homeroomId', 'join', 'leave', 'joinGroups', 'leaveGroups'],
    input: ({ from, homeroomId, withClasses, join, leave, joinGroups, leaveGroups }: Values) => {
      const along = withClasses && homeroomId && offer
      const joined = [...new Set([...join, ...(along ? proposedClasses(offer, homeroomId) : [])])]
      const old = along ? offer.homerooms.filter((h) => students.some((s) => s.homeroom === h.name)) : []
      const left = [...leave, ...old.flatMap((h) => (offer ? proposedClasses(offer, h.id) : []))]
      return {
        students: students.map((s) => ({ studentId: s.id, expectedVersion: s.rollVersion })),
        from,
        homeroomId: homeroomId || null,
        join: joined,
        leave: [...new Set(left)].filter((id) => !joined.includes(id)),
        joinGroups,
        leaveGroups,
      }
    },
    onSaved: (_, { from }, run) => onSaved(from, run),
  })
  const { control, setValue, register } = of.form
  const chosen = useWatch({ control }) as Values
  const { from, homeroomId } = chosen
  const { answer: offer, problem } = useAnswer(
    'people.enrolForm',
    isCivilDate(from) ? { startDate: from } : undefined,
    { keep: true },
  )
  const groups = new Set(students.map((s) => s.yearGroup))
  const groupIds = new Set(offer?.yearGroups.filter((g) => groups.has(g.name)).map((g) => g.id))
  const classes = (offer?.classes ?? []).filter((c) => c.inTerm && groupIds.has(c.yearGroupId))
  const homerooms = groups.size === 1 ? offer?.homerooms.filter((h) => groupIds.has(h.yearGroupId)) : []
  const noClasses = 'No classes run in this term.'
  const groupChoices = offer?.groups ?? []
  const choices = [
    { which: 'join', other: 'leave', title: 'Join classes', of: classes, none: noClasses },
    { which: 'leave', other: 'join', title: 'Leave classes', of: classes, none: noClasses },
    ...(groupChoices.length > 0
      ? ([
          { which: 'joinGroups', other: 'leaveGroups', title: 'Join groups', of: groupChoices, none: '' },
          { which: 'leaveGroups', other: 'joinGroups', title: 'Leave groups', of: groupChoices, none: '' },
        ] as const)
      : []),
  ] as const
  return (
    <DialogForm
      of={of}
      title={students.length === 1 ? 'Move 1 student' : `Move ${students.length} students`}
      description="The change holds from its first day. What is not chosen here stays as it is."
      wide
      onClose={onClose}
    >
      {problem && <Problem>{problem}</Problem>}
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={of} name="from" label="First day of the change" />
        {groups.size === 1 ? (
          <FormSelect key={String(offer !== undefined)} of={of} name="homeroomId" label="Homeroom">
            <option value="">as it is</option>
            {homerooms?.map((h) => (
              <option key={h.id} value={h.id}>
                {h.name}, {h.students} students
              </option>
            ))}
          </FormSelect>
        ) : (
          <p className="self-end text-muted">
            These students are in different year groups, so they cannot be in one homeroom.
          </p>
        )}
      </div>
      {homeroomId && (
        <Tick label="Change the classes that go with the homeroom, too" {...register('withClasses')} />
      )}
      {choices.map(({ which, other, title, of: offered, none }) => (
        <details key={which} open={which === 'join'}>
          <summary className="cursor-pointer text-[13px] font-bold">{title}</summary>
          {of.problem(which) && <Problem>{of.problem(which)}</Problem>}
          {offered.length === 0 ? (
            <p className="text-muted">{offer ? none : 'Loading'}</p>
          ) : (
            <div className="grid max-h-52 gap-x-4 overflow-auto sm:grid-cols-2">
              <ClassTicks
                classes={offered}
                chosen={chosen[which]}
                isOut={(c) => chosen[other].includes(c.id)}
                onChange={(next) => setValue(which, next, { shouldDirty: true })}
              />
            </div>
          )}
        </details>
      ))}
    </DialogForm>
  )
}
