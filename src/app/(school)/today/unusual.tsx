'use client'
import { sessionWords } from '@/core/attendance/sessions'
import type { QueryOutput } from '@/server/registry'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'

type Unusual = QueryOutput<'attendance.unusual'>

const registerOf = (m: Unusual['many'][number], date: string) =>
  `${m.ofClass ? `/classes/${m.id}/register` : `/attendance/registers/${m.id}`}?session=${m.session}&date=${date}`

/** What is unusual in the day's registers; nothing where nothing is. */
export function UnusualToday({ initial, date }: { initial: Unusual; date: string }) {
  const [{ many, gone }] = useLive('attendance.unusual', { date }, initial)
  if (many.length === 0 && gone.length === 0) return null
  return (
    <section className="mt-8" aria-labelledby="unusual">
      <h2 id="unusual" className="mb-2">
        Unusual in the registers
      </h2>
      <ul className="grid gap-1">
        {many.map((m) => (
          <li key={`${m.id} ${m.session}`}>
            <Link className="link" href={registerOf(m, date)}>
              {m.name}, {sessionWords(m.session)}
            </Link>
            : {m.away} of {m.marked} away
          </li>
        ))}
        {gone.map((g) => (
          <li key={`${g.studentId} ${g.period}`}>
            <Link className="link" href={`/people/${g.studentId}`}>
              {g.name}
            </Link>
            : present in{' '}
            {g.before === 'morning' || g.before === 'afternoon' ? `the ${g.before}` : sessionWords(g.before)},
            away without a reason in{' '}
            <Link className="link" href={`/classes/${g.classId}/register?session=${g.period}&date=${date}`}>
              {g.className}, {sessionWords(g.period)}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}
