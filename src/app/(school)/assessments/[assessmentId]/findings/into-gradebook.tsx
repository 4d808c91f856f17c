'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { Problem, Select } from '@/ui/field'
import { askServer, tellServer } from '@/screen/server'
import type { Findings } from './findings-page'

/** Puts the result into each class's gradebook as a linked assignment. */
export function IntoGradebook({ findings: f }: { findings: Findings }) {
  const [linked, setLinked] = useState<ReadonlySet<string>>(
    new Set(f.classes.filter((c) => c.assignmentId).map((c) => c.id)),
  )
  const [categories, setCategories] = useState<
    Readonly<Record<string, readonly { id: string; name: string }[]>>
  >({})
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>({})
  const [problem, setProblem] = useState<string>()
  async function open(classId: string) {
    const result = await askServer('marks.gradebook', { classId, date: f.givenOn })
    if (!result.ok) return setProblem(result.failure.message)
    const list = result.value.book?.categories ?? []
    if (list.length === 0)
      return setProblem(
        'This class has no gradebook for that term yet. Set up its categories and weights first.',
      )
    setCategories({ ...categories, [classId]: list })
    setChosen({ ...chosen, [classId]: list[0]?.id ?? '' })
  }
  async function link(classId: string) {
    const result = await tellServer('marks.linkAssessment', {
      classId,
      assessmentId: f.id,
      categoryId: chosen[classId] ?? '',
    })
    if (!result.ok) return setProblem(result.failure.message)
    setProblem(undefined)
    setLinked(new Set([...linked, classId]))
  }
  return (
    <section>
      <h2 className="mb-2">Into the gradebook</h2>
      {problem && <Problem>{problem}</Problem>}
      <ul className="grid gap-2">
        {f.classes.map((c) => (
          <li key={c.id} className="flex flex-wrap items-center gap-3">
            <strong>{c.name}</strong>
            {linked.has(c.id) ? (
              <span>
                <span aria-hidden className="text-starboard">
                  ✓{' '}
                </span>
                Linked as an assignment; later changes follow.{' '}
                <Link className="link" href={`/classes/${c.id}/gradebook`}>
                  Open the gradebook
                </Link>
              </span>
            ) : categories[c.id] ? (
              <>
                <label className="flex items-center gap-2">
                  under{' '}
                  <Select
                    value={chosen[c.id]}
                    onChange={(e) => setChosen({ ...chosen, [c.id]: e.target.value })}
                  >
                    {categories[c.id]?.map((x) => (
                      <option key={x.id} value={x.id}>
                        {x.name}
                      </option>
                    ))}
                  </Select>
                </label>
                <Button onClick={() => void link(c.id)}>Put it there, linked</Button>
              </>
            ) : (
              <Button kind="plain" onClick={() => void open(c.id)}>
                Put the result into the gradebook
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
