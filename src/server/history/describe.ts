import { shortDate } from '@/core/calendar/date-words'

export interface ChangeRow {
  readonly id: string
  readonly at: Date
  readonly actor: string
  readonly command: string
  readonly table_name: string
  readonly operation: 'insert' | 'update' | 'delete'
  readonly row_key: Readonly<Record<string, unknown>>
  readonly before: Readonly<Record<string, unknown>> | null
  readonly after: Readonly<Record<string, unknown>> | null
}

interface Described {
  /** The kind of record, as on screen. */
  readonly kind: string
  /** Which one: the class, the session, the assignment. */
  readonly which: string
  readonly changes: readonly { readonly what: string; readonly from: string; readonly to: string }[]
}

type NameOf = ReadonlyMap<string, string>
type Values = Readonly<Record<string, unknown>>

interface TableWords {
  readonly kind: string
  readonly which: (values: Values, nameOf: NameOf) => string
  /** Columns worth telling, and what they are called. Others are the machine's own. */
  readonly columns: Readonly<Record<string, string>>
}

const text = (value: unknown) => (typeof value === 'string' ? value : '')
const nameAt = (column: string) => (values: Values, nameOf: NameOf) => nameOf.get(text(values[column])) ?? ''

const tables: Readonly<Record<string, TableWords>> = {
  student: {
    kind: 'Student record',
    which: () => '',
    columns: {
      number: 'number',
      legal_given_name: 'legal given name',
      legal_family_name: 'legal family name',
      preferred_name: 'preferred name',
      birth_date: 'birth date',
      address: 'address',
      ferry: 'ferry',
      support_note: 'support note',
      expected_from: 'expected from',
    },
  },
  guardianship: {
    kind: 'Guardian',
    which: nameAt('guardian_id'),
    columns: {
      relation: 'relation',
      contact_order: 'contact order',
      may_receive_reports: 'receives reports',
    },
  },
  enrolment: { kind: 'Enrolment', which: nameAt('year_group_id'), columns: { period: 'period' } },
  homeroom_member: { kind: 'Homeroom', which: nameAt('homeroom_id'), columns: { period: 'period' } },
  class_member: { kind: 'Class', which: nameAt('class_id'), columns: { period: 'period' } },
  attendance_mark: {
    kind: 'Attendance',
    which: (v) => `${shortDate(text(v.session_date))}, ${text(v.session)}`,
    columns: { code_id: 'mark', minutes_late: 'minutes late', note: 'note' },
  },
  answer_sheet: {
    kind: 'Answer sheet',
    which: nameAt('assessment_id'),
    columns: { answered: 'has answers' },
  },
  answer: {
    kind: 'Answer',
    which: (v, n) => `${n.get(text(v.assessment_id)) ?? ''}, ${n.get(text(v.question_id)) ?? ''}`,
    columns: { choice: 'choice' },
  },
  score: {
    kind: 'Score',
    which: nameAt('assignment_id'),
    columns: { points: 'points', standing: 'standing' },
  },
  report_entry: {
    kind: 'Report entry',
    which: (v, n) => `${n.get(text(v.class_id)) ?? ''}, ${n.get(text(v.round_id)) ?? ''}`,
    columns: {
      effort: 'effort',
      comment: 'comment',
      handed_mark: 'mark handed in',
      handed_grade: 'grade handed in',
    },
  },
  report_card: {
    kind: 'Report card',
    which: nameAt('round_id'),
    columns: { issue: 'issue', released_by: 'released by', replaced_at: 'replaced' },
  },
  mail: { kind: 'Mail', which: (v) => text(v.to_address), columns: { subject: 'subject', state: 'state' } },
}

function periodWords(value: string): string | undefined {
  const parts = /^[[(](\d{4}-\d\d-\d\d)?,(\d{4}-\d\d-\d\d)?[)\]]$/.exec(value)
  if (!parts) return undefined
  return `from ${parts[1] ? shortDate(parts[1], true) : 'ever'}${parts[2] ? ` to before ${shortDate(parts[2], true)}` : ''}`
}

function valueWords(value: unknown, nameOf: NameOf): string {
  if (value === null || value === undefined || value === '') return ''
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  const words = String(value)
  if (/^\d{4}-\d\d-\d\d$/.test(words)) return shortDate(words, true)
  return nameOf.get(words) ?? periodWords(words) ?? words
}

/** Puts a row of the history into words. Rows of tables without words of their own are told by the table's name. */
export function describeChange(row: ChangeRow, nameOf: NameOf): Described {
  const words = tables[row.table_name] ?? { kind: row.table_name, which: () => '', columns: {} }
  const all = { ...row.row_key, ...row.before, ...row.after }
  const changes = Object.entries(words.columns)
    .map(([column, what]) => ({
      what,
      from: valueWords(row.before?.[column], nameOf),
      to: valueWords(row.after?.[column], nameOf),
    }))
    .filter((c) => c.from !== c.to)
  const act = { insert: 'made', update: 'changed', delete: 'taken away' }[row.operation]
  return {
    kind: words.kind,
    which: words.which(all, nameOf),
    changes: changes.length > 0 ? changes : [{ what: act, from: '', to: '' }],
  }
}
