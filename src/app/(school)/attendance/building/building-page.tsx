'use client'
import { useState } from 'react'
import { sessionWords } from '@/core/attendance/sessions'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { ChoiceGroup } from '@/ui/choice-group'
import { useTimeNow } from '@/screen/clock'
import { useLive } from '@/screen/use-live'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'

type Student = QueryOutput<'attendance.inBuilding'>['students'][number]

const marks = { here: '●', away: '○', 'not known': '?' } as const
const shownKinds = ['here or not known', 'everyone'] as const

/** What the latest register says of somebody. */
const stateOf = ({ where, code, session }: Student) =>
  where === 'not known' ? 'no register yet' : `${code ?? ''}, ${sessionWords(session ?? '')}`

function Homeroom({ name, students }: { name: string; students: readonly Student[] }) {
  const of = (where: Student['where']) => students.filter((s) => s.where === where).length
  return (
    <section className="mb-5 break-inside-avoid" aria-label={name}>
      <h2 className="mb-1 border-b border-ink pb-1">
        {name}{' '}
        <span className="font-normal text-muted">
          {of('here')} here, {of('away')} absent{of('not known') > 0 && `, ${of('not known')} not known`}
        </span>
      </h2>
      <ul>
        {students.map((s) => (
          <li key={s.studentId} className="flex items-baseline gap-2 border-b border-rule py-[3px]">
            <span
              aria-hidden
              className={`w-4 text-center ${s.where === 'not known' ? 'font-bold text-ochre' : ''}`}
            >
              {marks[s.where]}
            </span>
            <span className={s.where === 'away' ? 'text-muted' : ''}>{s.name}</span>
            <span className="ml-auto text-[13px] text-muted">
              <span className="sr-only">{s.where}: </span>
              {stateOf(s)}
            </span>
            {/* Room to tick a name on paper. */}
            <span aria-hidden className="hidden size-3 border border-ink print:inline-block" />
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Who is in the building now by the latest registers of today, homeroom by homeroom, for a tablet or on paper. */
export function BuildingPage({ initial }: { initial: QueryOutput<'attendance.inBuilding'> }) {
  const [{ students }] = useLive('attendance.inBuilding', {}, initial)
  const time = useTimeNow()
  const [shown, setShown] = useState<(typeof shownKinds)[number]>('here or not known')
  const listed = students.filter((s) => shown === 'everyone' || s.where !== 'away')
  const homerooms = [...new Set(listed.map((s) => s.homeroom))]
  const count = (where: Student['where']) => students.filter((s) => s.where === where).length
  return (
    <div className="sheet">
      <AttendanceHead
        page="In the building"
        today
        detail={`${count('here')} here, ${count('away')} absent, ${count('not known')} not known${time && `, at ${time}`}`}
        act={<Button onClick={() => window.print()}>Print</Button>}
      />
      <div className="mb-4 no-print">
        <ChoiceGroup
          label="Shown"
          choices={shownKinds}
          value={shown}
          onChange={(next) => next && setShown(next)}
        />
      </div>
      {students.length === 0 && <p>Nobody is on roll today.</p>}
      <div className="gap-x-8 sm:columns-2 xl:columns-3">
        {homerooms.map((name) => (
          <Homeroom key={name} name={name} students={listed.filter((s) => s.homeroom === name)} />
        ))}
      </div>
    </div>
  )
}
