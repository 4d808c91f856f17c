'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { mostOf } from '@/core/assessment/scoring'
import { Problem, Select, TextInput } from '@/ui/field'
import Link from '@/screen/link'
import { newKey, sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'
import type { Findings } from './shown'

/** Adds the result to each class's gradebook as a linked assignment. */
export function AddToGradebook({ findings: f, linked }: { findings: Findings; linked: readonly string[] }) {
  return (
    <section>
      <h2 className="mb-2">Gradebook</h2>
      <ul className="grid gap-2">
        {f.classes
          .filter((c) => f.ownClassIds.includes(c.id))
          .map((c) => (
            <OneClass
              key={c.id}
              findings={f}
              classId={c.id}
              date={c.givenOn}
              name={c.name}
              linked={linked.includes(c.id)}
            />
          ))}
      </ul>
    </section>
  )
}

function OneClass({
  findings: f,
  classId,
  date,
  name,
  linked,
}: {
  findings: Findings
  classId: string
  /** When the class sat it. */
  date: string
  name: string
  linked: boolean
}) {
  const [open, setOpen] = useState(false)
  const [added, setAdded] = useState(linked)
  return (
    <li className="flex flex-wrap items-end gap-3">
      <strong className="self-center">{name}</strong>
      {added || linked ? (
        <span>
          <span aria-hidden className="text-starboard">
            ✓{' '}
          </span>
          Added to the gradebook; later changes follow.{' '}
          <Link className="link" href={`/classes/${classId}/marks?date=${date}`}>
            Open the gradebook
          </Link>
        </span>
      ) : open ? (
        <Adding findings={f} classId={classId} date={date} onAdded={() => setAdded(true)} />
      ) : (
        <Button kind="plain" onClick={() => setOpen(true)}>
          Add to gradebook<span className="sr-only"> of {name}</span>
        </Button>
      )}
    </li>
  )
}

/** Asks where the result goes, as what, and out of how many points. */
function Adding({
  findings: f,
  classId,
  date,
  onAdded,
}: {
  findings: Findings
  classId: string
  date: string
  onAdded: () => void
}) {
  const { answer, problem: notLoaded } = useAnswer('marks.gradebook', { classId, date })
  const [into, setInto] = useState<string>()
  const [byStandard, setByStandard] = useState(false)
  const [points, setPoints] = useState('')
  const [problem, setProblem] = useState<string>()
  const [key] = useState(newKey)
  if (!answer)
    return notLoaded ? (
      <Problem>{notLoaded}</Problem>
    ) : (
      <span role="status" className="text-muted">
        Loading
      </span>
    )
  const { categories = [], assignments = [], scores = [] } = answer.book ?? {}
  if (categories.length === 0)
    return (
      <span>
        This class has no gradebook for that term yet.{' '}
        <Link className="link" href={`/classes/${classId}/marks?date=${date}`}>
          Set up its categories and weights first
        </Link>
        .
      </span>
    )
  // One with scores of its own keeps them.
  const scored = new Set(scores.map((s) => s.assignmentId))
  const free = assignments.filter((a) => a.assessmentId === null && !scored.has(a.id))
  const chosen = into ?? categories[0]?.id ?? ''
  const existing = byStandard ? undefined : free.find((a) => a.id === chosen)
  async function add() {
    const typed = points.trim().replace(',', '.')
    const result = await sendCommand(
      'marks.linkAssessment',
      {
        classId,
        assessmentId: f.id,
        byStandard,
        maxPoints: typed === '' ? null : typed,
        ...(existing
          ? { assignment: { id: existing.id, expectedVersion: existing.version } }
          : { categoryId: categories.some((c) => c.id === chosen) ? chosen : (categories[0]?.id ?? '') }),
      },
      key,
    )
    if (result.ok) return onAdded()
    setProblem(result.failure.message)
  }
  const label = 'grid gap-1 text-[13px]'
  const hasStandards = f.questions.some((q) => q.standardIds.length > 0)
  return (
    <>
      {problem && <Problem>{problem}</Problem>}
      {hasStandards && (
        <label className={label}>
          As
          <Select
            value={byStandard ? 'standards' : 'whole'}
            onChange={(e) => setByStandard(e.target.value === 'standards')}
          >
            <option value="whole">one score</option>
            <option value="standards">one score for each standard</option>
          </Select>
        </label>
      )}
      <label className={label}>
        Category
        <Select value={chosen} onChange={(e) => setInto(e.target.value)}>
          <optgroup label="New assignment in">
            {categories.map((x) => (
              <option key={x.id} value={x.id}>
                {x.name}
              </option>
            ))}
          </optgroup>
          {free.length > 0 && !byStandard && (
            <optgroup label="Existing assignment">
              {free.map((x) => (
                <option key={x.id} value={x.id}>
                  {x.name}
                </option>
              ))}
            </optgroup>
          )}
        </Select>
      </label>
      <label className={label}>
        Scaled to
        <TextInput
          inputMode="decimal"
          className="w-24!"
          placeholder={byStandard ? 'its points' : `${mostOf(f.questions) / 100} points`}
          value={points}
          onChange={(e) => setPoints(e.target.value)}
        />
      </label>
      <Button onClick={() => void add()}>Add to gradebook</Button>
      <span className="self-center text-[13px] text-muted">Later changes follow.</span>
    </>
  )
}
