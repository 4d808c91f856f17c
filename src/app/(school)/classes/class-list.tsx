'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import { comparableName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { TextInput } from '@/ui/field'
import { dayWords } from '@/screen/day-words'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useDateLink } from '@/screen/use-date-link'
import { useLive } from '@/screen/use-live'

type Registers = QueryOutput<'attendance.registersOfDay'>

function RegisterState({ marked, onRoll }: { marked: number; onRoll: number }) {
  if (marked >= onRoll)
    return (
      <span className="text-starboard">
        <span aria-hidden>✓ </span>complete
      </span>
    )
  if (marked === 0)
    return (
      <span>
        <span aria-hidden>○ </span>not begun
      </span>
    )
  return (
    <span className="font-bold text-ochre">
      <span aria-hidden>◐ </span>
      {onRoll - marked} without a mark
    </span>
  )
}

/** The homerooms with their registers of the day, and the classes with their gradebooks. */
export function ClassList({
  classes,
  initial,
  date,
  session,
}: {
  classes: QueryOutput<'marks.classes'>
  initial: Registers
  date: string
  session: 'morning' | 'afternoon'
}) {
  const { actor } = useSchool()
  // Who only teaches has a short list; everyone else looks for any class.
  const ownOnly = actor.roles.every((role) => role === 'teacher' || role === 'guardian')
  const [{ day, registers }] = useLive('attendance.registersOfDay', { date }, initial)
  const dated = useDateLink()
  const [text, setText] = useState('')
  const shown = classes.filter(
    (c) =>
      (c.own || !ownOnly) && comparableName(`${c.name} ${c.teachers ?? ''}`).includes(comparableName(text)),
  )
  return (
    <div className="sheet max-w-5xl">
      <PageHead title="Classes" detail={dayWords(day)} />
      <section className="mb-8">
        <h2 className="mb-1">Homerooms and their registers</h2>
        {registers.length === 0 ? (
          <p>No homeroom has students on this date yet.</p>
        ) : (
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Homeroom</th>
                <th scope="col">Homeroom teacher</th>
                <th scope="col" className="text-right">
                  On roll
                </th>
                {day?.kind === 'school day' && (
                  <>
                    <th scope="col">Morning</th>
                    <th scope="col">Afternoon</th>
                  </>
                )}
              </tr>
            </thead>
            <tbody>
              {[...registers]
                .sort((a, b) => Number(b.own) - Number(a.own))
                .map((r) => (
                  <tr key={r.id}>
                    <th scope="row">
                      <Link className="link" href={dated(`/homerooms/${r.id}/register?session=${session}`)}>
                        {r.name}
                      </Link>
                      {r.own && <span className="text-muted">, mine</span>}
                    </th>
                    <td>{r.teacher ?? <span className="text-port">none</span>}</td>
                    <td className="text-right">{r.onRoll}</td>
                    {day?.kind === 'school day' && (
                      <>
                        <td>
                          <RegisterState marked={r.morning} onRoll={r.onRoll} />
                        </td>
                        <td>
                          <RegisterState marked={r.afternoon} onRoll={r.onRoll} />
                        </td>
                      </>
                    )}
                  </tr>
                ))}
            </tbody>
          </table>
        )}
      </section>
      <section>
        <div className="mb-1 flex items-end gap-4">
          <h2>{ownOnly ? 'My classes' : 'All classes'}</h2>
          {!ownOnly && classes.length > 0 && (
            <TextInput
              aria-label="Narrow by class or teacher"
              placeholder="Class or teacher"
              className="max-w-60"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          )}
        </div>
        {classes.length === 0 ? (
          <p>There are no classes in this academic year yet.</p>
        ) : (
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Class</th>
                <th scope="col">Subject</th>
                <th scope="col">Teacher</th>
                <th scope="col" className="text-right">
                  Students
                </th>
              </tr>
            </thead>
            <tbody>
              {shown.map((c) => (
                <tr key={c.id}>
                  <th scope="row">
                    {c.mayOpen ? (
                      <Link className="link" href={dated(`/classes/${c.id}/gradebook`)}>
                        {c.name}
                      </Link>
                    ) : (
                      c.name
                    )}
                  </th>
                  <td>{c.subject}</td>
                  <td>{c.teachers ?? <span className="text-port">none</span>}</td>
                  <td className="text-right">{c.students}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {classes.length > 0 && shown.length === 0 && (
          <p className="mt-2">{text ? 'No class matches.' : 'You teach no class on this date.'}</p>
        )}
      </section>
    </div>
  )
}
