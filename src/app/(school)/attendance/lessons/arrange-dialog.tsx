'use client'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText, FormTick } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { Tick } from '@/ui/field'
import type { Lesson } from './lesson-state'

type Day = QueryOutput<'attendance.lessonsOfDay'>

interface Values {
  cancelled: boolean
  staffId: string
  roomId: string
  note: string
  confirmed: boolean
}

/** What is different for one lesson on one day: who covers it, another room, or that it does not take place. */
export function ArrangeDialog({
  lesson,
  date,
  rooms,
  staff,
  onClose,
  onSaved,
}: {
  lesson: Lesson
  date: string
  rooms: Day['rooms']
  staff: Day['staff']
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const what = `${lesson.name}, period ${lesson.period}`
  const of = useCommandForm('timetable.changeLesson', {
    schema: () => import('@/core/timetable/inputs').then((m) => m.lessonChangeInput),
    values: {
      cancelled: lesson.cancelled,
      staffId: lesson.coverId ?? '',
      roomId: lesson.roomChanged ? (lesson.roomId ?? '') : '',
      note: lesson.note ?? '',
      confirmed: false,
    } as Values,
    edited: lesson,
    places: ['staffId', 'roomId', 'note', 'confirmed'],
    input: (v: Values) => ({
      ...v,
      classId: lesson.classId,
      date,
      period: lesson.period,
      expectedVersion: lesson.version,
    }),
    onSaved: (_, { cancelled }, run) => onSaved(`${what}: ${cancelled ? 'cancelled' : 'saved'}.`, run),
  })
  const clash = of.problem('confirmed')
  return (
    <DialogForm
      of={of}
      title={what}
      description={`${shortDate(date, true)}, ${lesson.starts} to ${lesson.ends}, ${lesson.teacher ?? 'no teacher'}${lesson.room ? `, ${lesson.room}` : ''}`}
      save="Save"
      onClose={onClose}
    >
      <FormSelect of={of} name="staffId" label="Cover">
        <option value="">{lesson.teacher ?? 'Nobody'}</option>
        {staff.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </FormSelect>
      <FormSelect of={of} name="roomId" label="Room">
        <option value="">As in the timetable</option>
        {rooms.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </FormSelect>
      <FormText of={of} name="note" label="Note" placeholder="Work is on the desk" />
      <FormTick of={of} name="cancelled" label="This lesson is cancelled" />
      {clash && (
        <div className="hint" role="alert">
          <p>{clash}</p>
          <Tick label="Save it anyway" {...of.form.register('confirmed')} />
        </div>
      )}
    </DialogForm>
  )
}
