'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Problem, Select } from '@/ui/field'
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
        {f.classes.map((c) => (
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
  const [category, setCategory] = useState<string>()
  const [added, setAdded] = useState(linked)
  const [problem, setProblem] = useState<string>()
  const [key] = useState(newKey)
  const { answer, problem: notLoaded } = useAnswer('marks.gradebook', open ? { classId, date } : undefined)
  const categories = answer?.book?.categories ?? []
  const chosen = category ?? categories[0]?.id ?? ''
  async function add() {
    const result = await sendCommand(
      'marks.linkAssessment',
      { classId, assessmentId: f.id, categoryId: chosen },
      key,
    )
    setProblem(result.ok ? undefined : result.failure.message)
    if (result.ok) setAdded(true)
  }
  const failed = problem ?? notLoaded
  return (
    <li className="flex flex-wrap items-center gap-3">
      <strong>{name}</strong>
      {failed && <Problem>{failed}</Problem>}
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
      ) : !open ? (
        <Button kind="plain" onClick={() => setOpen(true)}>
          Add to gradebook<span className="sr-only"> of {name}</span>
        </Button>
      ) : !answer ? (
        <span role="status" className="text-muted">
          Loading
        </span>
      ) : categories.length === 0 ? (
        <span>
          This class has no gradebook for that term yet.{' '}
          <Link className="link" href={`/classes/${classId}/marks?date=${date}`}>
            Set up its categories and weights first
          </Link>
          .
        </span>
      ) : (
        <>
          <label className="flex items-center gap-2">
            Category{' '}
            <Select value={chosen} onChange={(e) => setCategory(e.target.value)}>
              {categories.map((x) => (
                <option key={x.id} value={x.id}>
                  {x.name}
                </option>
              ))}
            </Select>
          </label>
          <Button onClick={() => void add()}>Add to gradebook</Button>
          <span className="text-[13px] text-muted">Later changes follow.</span>
        </>
      )}
    </li>
  )
}
