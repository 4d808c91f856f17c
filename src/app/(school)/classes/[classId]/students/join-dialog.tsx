'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate } from '@/core/calendar/school-year'
import { matchRank } from '@/core/people/names'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAnswer } from '@/screen/use-live'
import { Button } from '@/ui/button'
import { Problem, Select, TextInput, Tick } from '@/ui/field'

/** Adds students to a class from a day on: a homeroom, a year group, or whoever is found by name. */
export function JoinDialog({
  classId,
  name,
  yearGroup,
  date,
  present,
  onClose,
  onSaved,
}: {
  classId: string
  name: string
  yearGroup: string
  date: string
  /** Who is in it already. */
  present: ReadonlySet<string>
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [place, setPlace] = useState(yearGroup)
  const [text, setText] = useState('')
  const [from, setFrom] = useState(date)
  const { answer, problem } = useAnswer('people.list', isCivilDate(from) ? { date: from } : undefined, {
    keep: true,
  })
  const students = (answer ?? []).filter((s) => !present.has(s.id))
  const taken = students.filter((s) => chosen.has(s.id))
  const howMany = taken.length === 1 ? '1 student' : `${taken.length} students`
  const of = useCommandForm('people.place', {
    schema: () => import('@/core/people/inputs').then((m) => m.placeInput),
    values: { from: date },
    places: ['from'],
    input: (v: { from: string }) => ({
      students: taken.map((s) => ({ studentId: s.id, expectedVersion: s.rollVersion })),
      from: v.from,
      join: [classId],
    }),
    onSaved: (_, v, run) => onSaved(`${howMany} added to ${name} from ${shortDate(v.from)}.`, run),
  })
  const groups = [...new Set((answer ?? []).map((s) => s.yearGroup))]
  const homerooms = [...new Set((answer ?? []).flatMap((s) => s.homeroom ?? []))]
  const shown = students.filter(
    (s) =>
      (place === '' || s.yearGroup === place || s.homeroom === place) &&
      (text.trim() === '' || matchRank(`${s.name} ${s.preferred ?? ''} ${s.number}`, text) !== undefined),
  )
  const isAll = shown.length > 0 && shown.every((s) => chosen.has(s.id))
  function choose(ids: readonly string[], on: boolean) {
    const others = [...chosen].filter((id) => !ids.includes(id))
    setChosen(new Set(on ? [...others, ...ids] : others))
  }
  return (
    <DialogForm
      of={of}
      title={`Add students to ${name}`}
      save={taken.length === 0 ? 'Add' : `Add ${howMany}`}
      wide
      onClose={onClose}
    >
      {problem && <Problem>{problem}</Problem>}
      <div className="grid gap-3 sm:grid-cols-3">
        <FormDate of={of} name="from" label="First day in the class" onChosen={setFrom} />
        <label className="grid content-start gap-1">
          <span className="text-[13px] font-bold">From</span>
          <Select value={place} onChange={(e) => setPlace(e.target.value)}>
            <option value="">the whole school</option>
            {[...groups, ...homerooms].map((where) => (
              <option key={where}>{where}</option>
            ))}
          </Select>
        </label>
        <label className="grid content-start gap-1">
          <span className="text-[13px] font-bold">Name or number</span>
          <TextInput type="search" value={text} onChange={(e) => setText(e.target.value)} />
        </label>
      </div>
      <p className="flex flex-wrap items-center gap-3">
        <Button
          kind="plain"
          disabled={shown.length === 0}
          onClick={() =>
            choose(
              shown.map((s) => s.id),
              !isAll,
            )
          }
        >
          {isAll ? 'Choose none of these' : `Choose all ${shown.length}`}
        </Button>
        <span role="status">{taken.length > 0 && `${howMany} chosen`}</span>
      </p>
      <div
        className="grid max-h-60 gap-x-4 overflow-auto border-t border-rule pt-1 sm:grid-cols-2"
        role="group"
        aria-label="Students to add"
      >
        {shown.map((s) => (
          <Tick
            key={s.id}
            label={s.name}
            detail={s.homeroom ?? s.yearGroup}
            checked={chosen.has(s.id)}
            onChange={(e) => choose([s.id], e.target.checked)}
          />
        ))}
        {answer && shown.length === 0 && <p className="text-muted">Nobody else matches.</p>}
      </div>
    </DialogForm>
  )
}
