'use client'
import type { ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import Link from '@/screen/link'
import { useAnswer } from '@/screen/use-live'
import { Problem } from '@/ui/field'

type Short = QueryOutput<'record.short'>
/** Where the student's register is taken on the date. */
type Homeroom = { readonly placeId: string; readonly name: string } | undefined

function Part({ title, none, children }: { title: string; none?: string; children?: ReactNode }) {
  return (
    <div className="content-start border-t border-rule pt-2">
      <h3 className="mb-1 text-[13px] font-bold">{title}</h3>
      {none ? <p className="text-muted">{none}</p> : children}
    </div>
  )
}

function Attendance({
  of: a,
  year,
  homeroom,
  figuresHref,
}: {
  of: NonNullable<Short['attendance']>
  year: string | undefined
  homeroom: Homeroom
  /** Where the figures open into their sessions, for those who may see them. */
  figuresHref: string | undefined
}) {
  const figures = [
    ['late', a.late],
    ['absent with reason', a.withReason],
    ['absent without reason', a.withoutReason],
  ] as const
  return (
    <Part
      title={`Attendance, ${year ?? ''}`}
      none={a.possible === 0 ? 'No register has been taken.' : undefined}
    >
      <p>
        <strong className="text-[20px]">{a.percentPresent} %</strong> present, {a.present} of {a.possible}{' '}
        half-days
      </p>
      <p className="text-muted">{figures.map(([what, n]) => `${n} ${what}`).join(', ')}</p>
      <p className="flex flex-wrap gap-x-4">
        {homeroom && (
          <Link className="link" href={`/attendance/registers/${homeroom.placeId}`}>
            Register of {homeroom.name}
          </Link>
        )}
        {figuresHref && (
          <Link className="link" href={figuresHref}>
            Figures and sessions
          </Link>
        )}
      </p>
    </Part>
  )
}

function Marks({ of: marks, term }: { of: Short['marks']; term: string | undefined }) {
  return (
    <Part title={`Marks, ${term ?? ''}`}>
      <ul>
        {marks.map((m) => (
          <li key={m.classId} className="flex justify-between gap-3 py-[2px]">
            <Link className="link" href={`/classes/${m.classId}/marks`}>
              {m.name}
            </Link>
            <span className="whitespace-nowrap">
              {m.missing > 0 && <span className="text-port">{m.missing} missing </span>}
              {m.mark === undefined ? 'no mark yet' : `${m.mark} ${m.grade ?? ''}`}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  )
}

/** Attendance, marks, assessments and report cards of a student in short, each leading to its page. */
export function ShortViews({
  studentId,
  date,
  homeroom,
}: {
  studentId: string
  date: string
  homeroom: Homeroom
}) {
  const { answer: s, problem } = useAnswer('record.short', { studentId, date })
  const isEmpty =
    s && !s.attendance && s.marks.length === 0 && s.assessments.length === 0 && s.cards.length === 0
  if (isEmpty) return null
  return (
    <section aria-labelledby="short">
      <h2 id="short" className="mb-2">
        On {shortDate(date)}
      </h2>
      {problem && <Problem>{problem}</Problem>}
      <div className="grid min-h-24 content-start gap-x-8 gap-y-4 md:grid-cols-2" aria-busy={!s}>
        {s?.attendance && (
          <Attendance
            of={s.attendance}
            year={s.year}
            homeroom={homeroom}
            figuresHref={
              s.maySeeFigures ? `/attendance/figures?of=student:${studentId}&period=year` : undefined
            }
          />
        )}
        {s && s.marks.length > 0 && <Marks of={s.marks} term={s.term} />}
        {s && s.assessments.length > 0 && (
          <Part title="Assessments, newest first">
            <ul>
              {s.assessments.map((a) => (
                <li key={a.id} className="flex justify-between gap-3 py-1">
                  <Link className="link" href={`/assessments/${a.id}/findings`}>
                    {a.name}
                  </Link>
                  <span className="whitespace-nowrap">
                    {a.points} of {a.most} points{a.unmarked > 0 && ', not final'}, {shortDate(a.givenOn)}
                  </span>
                </li>
              ))}
            </ul>
          </Part>
        )}
        {s && s.cards.length > 0 && (
          <Part title="Report cards">
            <ul>
              {s.cards.map((c) => (
                <li key={c.id} className="flex justify-between gap-3 py-[2px]">
                  <a
                    className="link"
                    href={`/api/documents/${c.documentId}`}
                    target="_blank"
                    rel="noreferrer"
                  >
                    {c.round}
                  </a>
                  <span>released on {shortDate(c.releasedAt.slice(0, 10), true)}</span>
                </li>
              ))}
            </ul>
          </Part>
        )}
      </div>
    </section>
  )
}
