import { termShownOn } from '@/core/calendar/school-year'
import type { QueryInput, QueryOutput } from '@/server/registry'

export type Choices = QueryOutput<'attendance.figureChoices'>
export type Scope = QueryInput<'attendance.figures'>

/** What stands in the address: of what, in which period, half-days or lessons. */
interface Asked {
  readonly of: string | undefined
  readonly period: string | undefined
  readonly sessions: string | undefined
}

const kinds: readonly Scope['kind'][] = ['student', 'class', 'homeroom', 'year group', 'group', 'school']

/** What figures are of, as it stands in the address. */
export const nameOfScope = ({ kind, id }: Pick<Scope, 'kind' | 'id'>) => `${kind}:${id ?? ''}`

/**
 * The figures that are asked for: by the address, else one's first homeroom or class in the present term.
 * @returns undefined where there is no year, nothing of one's own, or the address names nothing known
 */
export function scopeOf({ year, choices, whole }: Choices, asked: Asked, date: string): Scope | undefined {
  if (!year) return undefined
  const [kind, id] = (asked.of ?? '').split(/:(.*)/)
  const chosen = kinds.find((k) => k === kind)
  const [first] = choices
  const usual = whole ? { kind: 'school' as const, id: null } : first && { kind: first.kind, id: first.id }
  const named = chosen && { kind: chosen, id: id || null }
  const of = asked.of === undefined ? usual : named
  const term = year.terms.find((t) => t.id === asked.period) ?? termShownOn(year, date)
  const span = asked.period === 'year' || !term ? year : term
  return (
    of && {
      ...of,
      from: span.firstDay,
      to: span.lastDay,
      date,
      sessions: asked.sessions === 'lessons' ? 'lessons' : 'half-days',
    }
  )
}

/** Everything but the school is one of many. */
export const isChoosable = ({ kind, id }: Scope) => kind === 'school' || id !== null
