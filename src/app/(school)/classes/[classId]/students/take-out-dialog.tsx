'use client'
import { shortDate } from '@/core/calendar/date-words'
import { addDays, isCivilDate } from '@/core/calendar/school-year'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'
import type { Member } from './members'

/** Takes students out of a class after a day; what they did in it stays. */
export function TakeOutDialog({
  classId,
  name,
  members: live,
  date,
  onClose,
  onSaved,
}: {
  classId: string
  name: string
  members: readonly Member[]
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const members = useAtOpening(live)
  const howMany = members.length === 1 ? '1 student' : `${members.length} students`
  const of = useCommandForm('people.place', {
    schema: () => import('@/core/people/inputs').then((m) => m.placeInput),
    values: { lastDay: date },
    places: ['from', 'leave'],
    input: ({ lastDay }: { lastDay: string }) => ({
      students: members.map((m) => ({ studentId: m.id, expectedVersion: m.rollVersion })),
      from: isCivilDate(lastDay) ? addDays(lastDay, 1) : lastDay,
      leave: [classId],
    }),
    onSaved: (_, { lastDay }, run) =>
      onSaved(`Last day of ${howMany} in ${name}: ${shortDate(lastDay)}.`, run),
  })
  // The command speaks of the first day away.
  const problem = () => of.problem('from') ?? of.problem('leave')
  return (
    <DialogForm
      of={of}
      title={`Take ${howMany} out of ${name}`}
      description="Scores, answers and report entries they have in the class stay."
      save="Take out"
      onClose={onClose}
    >
      <FormDate of={{ ...of, problem }} name="lastDay" label="Last day in the class" />
    </DialogForm>
  )
}
