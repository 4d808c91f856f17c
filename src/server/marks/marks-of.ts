import { groupBy } from '@/core/group-by'
import { isCalculated } from '@/core/marks/columns/column'
import { valueOfEntry, withEntered } from '@/core/marks/columns/entered'
import { evaluateAll, type Evaluated, type Source } from '@/core/marks/columns/evaluate'
import { sourceOf } from '@/core/marks/columns/student-source'
import type { Names } from '@/core/marks/columns/words'
import { explainMark } from '@/core/marks/explanation'
import { areHeld, type MarksPeriod, type MarksState } from '@/core/marks/periods/state'
import { heldColumn, type HeldExplanation } from '@/core/marks/periods/held'
import type { Rational } from '@/core/marks/rational'
import { termMark, type TermMark } from '@/core/marks/term-mark'
import type { Context } from '@/server/platform/context'
import { loadColumns, type StoredColumn } from './columns'
import { loadElsewhere, termsOfAll, type Member, type TermOfClass } from './elsewhere'
import { loadEntries } from './entered'
import { loadGradebooks, type LoadedGradebook } from './load-gradebooks'

/** The mark of the period itself, as a source beside the identifiers of columns. */
export const markItself = 'mark'

/** What a student has in one source: of the period's mark or a calculated column its number and what it is called. */
export interface MarkValue {
  readonly exact: Rational | undefined
  readonly mark: string | undefined
  /** The grade, the attainment level, or what was chosen. */
  readonly grade: string | undefined
}

/** The marks of a class in one part of the year: held where they are confirmed, else as the gradebook has them now. */
export interface ClassMarks {
  readonly classId: string
  /** Of what is kept; none where nobody has confirmed them yet. */
  readonly id: string | undefined
  readonly state: MarksState
  readonly version: number
  readonly reason: string | null
  readonly changedBy: string | null
  readonly changedAt: string | null
  readonly rulesVersion: number
  /** The columns that have a value here, beside the mark itself. */
  readonly columns: readonly StoredColumn[]
  /** Whether there is a mark of the period itself: a whole year has only columns. */
  readonly hasMark: boolean
  readonly valueOf: (student: Member, source: string) => MarkValue
  /** What the gradebook says now; not where marks are held and nobody asked for it. */
  readonly nowOf: (student: Member, source: string) => MarkValue
  readonly explainNow: (student: Member, source: string) => HeldExplanation
}

const nothing: MarkValue = { exact: undefined, mark: undefined, grade: undefined }

interface Now {
  readonly mark: TermMark | undefined
  readonly values: ReadonlyMap<string, Evaluated>
}

/** The gradebook of a class as it is now, for one part of the year. */
class Live {
  private readonly known = new Map<string, Now>()

  constructor(
    private readonly today: string,
    private readonly period: MarksPeriod,
    private readonly book: LoadedGradebook | undefined,
    private readonly columns: readonly StoredColumn[],
    private readonly terms: readonly TermOfClass[],
    private readonly elsewhere: (student: Member) => Source,
    private readonly entered: ReadonlyMap<string, string | null>,
  ) {}

  /** The gradebook with the work that is due in the period. */
  private get part(): LoadedGradebook | undefined {
    const { periodId } = this.period
    if (periodId === null || !this.book) return this.book
    const period = this.terms.flatMap((t) => t.periods).find((p) => p.id === periodId)
    if (!period) return undefined
    const assignments = this.book.assignments.filter(
      (a) => period.firstDay <= a.dueOn && a.dueOn <= period.lastDay,
    )
    return { ...this.book, assignments }
  }

  private ofStudent(student: Member): Now {
    const before = this.known.get(student.id)
    if (before) return before
    const book = this.part
    const dates = { on: this.today, since: student.since }
    const entries = book?.entriesOf(student.id) ?? new Map()
    const mark = book && termMark(book, entries, dates)
    const calculated = this.columns.filter(isCalculated)
    const elsewhere = withEntered(
      this.columns,
      (columnId) => this.entered.get(`${columnId} ${student.id}`),
      this.elsewhere(student),
    )
    const term = this.terms.find((t) => t.id === this.period.termId)
    const source =
      book && term
        ? sourceOf({ term, periods: term.periods, book, entries, dates, mark }, elsewhere)
        : elsewhere
    const now = { mark, values: evaluateAll(calculated, source) }
    this.known.set(student.id, now)
    return now
  }

  value(student: Member, source: string): MarkValue {
    if (source === markItself) {
      const { mark } = this.ofStudent(student)
      return mark ? { exact: mark.exact, mark: mark.mark, grade: mark.grade } : nothing
    }
    const column = this.columns.find((c) => c.id === source)
    if (!column) return nothing
    if (isCalculated(column)) {
      const value = this.ofStudent(student).values.get(source)
      return { exact: value?.exact, mark: value?.text, grade: value?.level }
    }
    const entry = this.entered.get(`${source} ${student.id}`) ?? undefined
    const { value: exact } = valueOfEntry(column, entry ?? null) ?? {}
    return column.does === 'number'
      ? { exact, mark: entry, grade: undefined }
      : { exact, mark: undefined, grade: entry }
  }

  explain(student: Member, source: string): HeldExplanation {
    const book = this.part
    if (source === markItself && book) {
      const dates = { on: this.today, since: student.since }
      return { kind: 'mark', version: 1, mark: explainMark(book, book.entriesOf(student.id), dates) }
    }
    const column = this.columns.find((c) => c.id === source)
    const value = column && isCalculated(column) ? this.ofStudent(student).values.get(source) : undefined
    if (!column || !isCalculated(column) || !value) return { kind: 'entered', version: 1 }
    const names: Names = {
      assignments: this.book?.assignments ?? [],
      categories: this.book?.categories ?? [],
      columns: this.columns,
      terms: this.terms,
    }
    return heldColumn(column, value, names)
  }
}

/** Class marks as they are kept, with the values that are held. */
async function loadKept(
  { db }: Pick<Context, 'db'>,
  classIds: readonly string[],
  { termId, periodId }: MarksPeriod,
) {
  const states = await db
    .selectFrom('classMarks')
    .selectAll()
    .where('classId', 'in', [...classIds])
    .where('termId', 'is not distinct from', termId)
    .where('periodId', 'is not distinct from', periodId)
    .execute()
  const held = states.filter((s) => areHeld(s.state))
  const values =
    held.length === 0
      ? []
      : await db
          .selectFrom('heldMark')
          .selectAll()
          .where(
            'marksId',
            'in',
            held.map((s) => s.id),
          )
          .execute()
  return { states: new Map(states.map((s) => [s.classId, s])), values: groupBy(values, (v) => v.marksId) }
}

/**
 * The one door to marks: those of classes in a part of the year, in a number of statements that does not grow with the
 * classes. Confirmed marks are as they are held; open ones as the gradebooks have them now.
 * @param now whether gradebooks are also looked at where marks are held, to show what has changed since
 */
export async function marksOf(
  context: Pick<Context, 'db' | 'today'>,
  classIds: readonly string[],
  period: MarksPeriod,
  now: 'always' | 'where open',
): Promise<ReadonlyMap<string, ClassMarks>> {
  if (classIds.length === 0) return new Map()
  const { db, today } = context
  const { termId, periodId } = period
  const { states, values } = await loadKept(context, classIds, period)
  const stateOf = (classId: string): MarksState => states.get(classId)?.state ?? 'open'
  const live = classIds.filter((id) => now === 'always' || !areHeld(stateOf(id)))
  const [books, all, terms, entries] = await Promise.all([
    termId === null ? new Map<string, LoadedGradebook>() : loadGradebooks(db, live, termId),
    periodId === null ? loadColumns(db, classIds, termId ?? undefined) : [],
    termsOfAll(context, live),
    periodId === null ? loadEntries(db, live) : [],
  ])
  // Of a whole year only what the whole year has.
  const columns = groupBy(
    all.filter((c) => termId !== null || c.termId === null),
    (c) => c.classId,
  )
  const elsewhere = await loadElsewhere(
    context,
    termId,
    live.map((classId) => ({
      classId,
      columns: columns.get(classId) ?? [],
      terms: terms.get(classId) ?? [],
    })),
  )
  const entered = new Map(entries.map((e) => [`${e.columnId} ${e.studentId}`, e.value]))
  return new Map(
    classIds.map((classId): [string, ClassMarks] => {
      const kept = states.get(classId)
      const state = stateOf(classId)
      const own = columns.get(classId) ?? []
      const book = books.get(classId)
      const gradebook = new Live(
        today,
        period,
        book,
        own,
        terms.get(classId) ?? [],
        elsewhere(classId).of,
        entered,
      )
      const held = new Map((values.get(kept?.id ?? '') ?? []).map((v) => [`${v.source} ${v.studentId}`, v]))
      const heldOf = ({ id }: Member, source: string): MarkValue => {
        const value = held.get(`${source} ${id}`)
        if (!value) return nothing
        const { num, den, mark, grade } = value
        return {
          exact: num !== null && den !== null ? { num: BigInt(num), den: BigInt(den) } : undefined,
          mark: mark ?? undefined,
          grade: grade ?? undefined,
        }
      }
      return [
        classId,
        {
          classId,
          id: kept?.id,
          state,
          version: kept?.version ?? 0,
          reason: kept?.reason ?? null,
          changedBy: kept?.changedBy ?? null,
          changedAt: kept?.changedAt ?? null,
          rulesVersion: book?.version ?? 0,
          columns: own,
          hasMark: termId !== null,
          nowOf: (student, source) => gradebook.value(student, source),
          valueOf: (student, source) =>
            areHeld(state) ? heldOf(student, source) : gradebook.value(student, source),
          explainNow: (student, source) => gradebook.explain(student, source),
        },
      ]
    }),
  )
}
