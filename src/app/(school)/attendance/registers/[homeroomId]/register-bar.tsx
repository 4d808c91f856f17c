import { awayMeanings, hereMeanings, lacking } from '@/core/attendance/codes'
import Link from '@/screen/link'
import { sessionQuery, type OpenRow, type Register, type RegisterInput } from './use-register'

/** How many are present, absent, late and not marked. */
export function Counts({ register, rows }: { register: Register; rows: readonly OpenRow[] }) {
  const meaningOf = new Map(register.codes.map((c) => [c.id, c.meaning]))
  const meanings = rows.map((r) => (r.now.codeId ? meaningOf.get(r.now.codeId) : undefined))
  const of = (list: readonly string[]) => meanings.filter((m) => m && list.includes(m)).length
  const open = rows.filter((r) => r.now.codeId === null && !r.expected).length
  const codeOf = new Map(register.codes.map((c) => [c.id, c]))
  const lacks = rows.filter((r) => {
    const code = r.now.codeId === null ? undefined : codeOf.get(r.now.codeId)
    return code && lacking(code, r.now)
  }).length
  const cell = 'border-r border-ink px-3 py-[5px] last:border-r-0'
  return (
    <p className="inline-flex overflow-hidden rounded-[3px] border border-ink bg-panel" data-testid="counts">
      {[
        [of(hereMeanings), 'present'],
        [of(awayMeanings), 'absent'],
        [of(['late']), 'late'],
        [open, 'not marked'],
        ...(lacks > 0 ? [[lacks, 'without minutes or note']] : []),
      ].map(([n, words]) => (
        <span
          key={words}
          className={`${cell} ${(words === 'not marked' && open > 0) || words === 'without minutes or note' ? 'bg-buff' : ''}`}
        >
          <strong className="text-[15px]">{n}</strong> {words}
        </span>
      ))}
    </p>
  )
}

/** When and where a lesson is, and for whom it is taken. */
export const lessonWords = ({ lesson }: Register): readonly string[] =>
  lesson
    ? [
        `${lesson.starts} to ${lesson.ends}`,
        ...(lesson.room ? [lesson.room] : []),
        lesson.cover
          ? `${lesson.cover} covers for ${lesson.teacher ?? 'no teacher'}`
          : (lesson.teacher ?? 'no teacher'),
      ]
    : []

/** The registers before and after: the day's other half, or the class's next lessons. */
export function OtherSessions({ register, input }: { register: Register; input: RegisterInput }) {
  if ('classId' in input)
    return (
      <span className="ml-auto flex gap-4 text-[13px]">
        {register.nearest.previous && (
          <Link className="link" href={sessionQuery(register.nearest.previous)}>
            Previous lesson
          </Link>
        )}
        {register.nearest.next && (
          <Link className="link" href={sessionQuery(register.nearest.next)}>
            Next lesson
          </Link>
        )}
      </span>
    )
  const other = input.session === 'morning' ? 'afternoon' : 'morning'
  return (
    <Link className="link ml-auto text-[13px]" href={`?session=${other}`}>
      {other === 'afternoon' ? 'Afternoon' : 'Morning'} register
    </Link>
  )
}
