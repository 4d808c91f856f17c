import type { ColumnType, Generated } from 'kysely'

/** A civil date, YYYY-MM-DD. */
type CivilDate = string
/** A half-open period of civil dates in PostgreSQL's text form, `[from,to)`. */
type Period = string
/** An exact decimal as text. */
type Decimal = string
type Moment = ColumnType<Date, Date | string | undefined, Date | string>
type Json<T> = ColumnType<T, string, string>

interface OfSchool {
  school_id: string
}

export interface Tables {
  school: {
    id: string
    name: string
    short_name: string
    locale: Generated<string>
    time_zone: Generated<string>
    created_at: Moment
  }
  membership: OfSchool & {
    account_id: string
    role: 'administrator' | 'head' | 'office' | 'records' | 'teacher' | 'student' | 'guardian'
    person_id: string
    name: string
    active: Generated<boolean>
  }
  history: OfSchool & {
    id: Generated<string>
    at: Moment
    account_id: string | null
    actor: string
    command: string
    table_name: string
    row_key: Json<Record<string, string>>
    student_id: string | null
    operation: 'insert' | 'update' | 'delete'
    before: Json<Record<string, unknown> | null>
    after: Json<Record<string, unknown> | null>
  }
  answered_command: OfSchool & {
    account_id: string
    key: string
    command: string
    answer: Json<unknown>
    at: Moment
  }
  'auth.user': {
    id: string
    name: string
    email: string
    username: string
    displayUsername: string | null
    mustChangePassword: Generated<boolean>
    emailVerified: Generated<boolean>
  }
  'auth.account': {
    id: string
    userId: string
    accountId: string
    providerId: string
    password: string | null
  }
  'auth.session': { id: string; userId: string; token: string; expiresAt: Moment }
  'auth.sign_in_failure': { username: string; at: Moment }

  academic_year: OfSchool & {
    id: string
    name: string
    first_day: CivilDate
    last_day: CivilDate
    weekdays: number[]
  }
  term: OfSchool & {
    id: string
    year_id: string
    name: string
    position: number
    first_day: CivilDate
    last_day: CivilDate
  }
  closure: OfSchool & {
    id: string
    year_id: string
    kind: 'break' | 'holiday' | 'staff day'
    name: string
    first_day: CivilDate
    last_day: CivilDate
  }
  staff_member: OfSchool & {
    id: string
    given_name: string
    family_name: string
    sort_name: string
    email: string | null
    phone: string | null
  }
  year_group: OfSchool & { id: string; name: string; position: number }
  homeroom: OfSchool & { id: string; year_id: string; year_group_id: string; name: string }
  homeroom_teacher: OfSchool & { homeroom_id: string; staff_id: string; period: Period }
  homeroom_class: OfSchool & { homeroom_id: string; class_id: string }
  homeroom_member: OfSchool & { homeroom_id: string; student_id: string; period: Period }
  subject: OfSchool & { id: string; name: string; position: number }
  grading_scale: OfSchool & { id: string; name: string }
  grading_band: OfSchool & { scale_id: string; grade: string; from_percent: Decimal }
  course: OfSchool & { id: string; subject_id: string; year_group_id: string; name: string }
  class: OfSchool & { id: string; year_id: string; course_id: string; scale_id: string; name: string }
  class_term: OfSchool & { class_id: string; term_id: string }
  class_teacher: OfSchool & { class_id: string; staff_id: string; period: Period }
  class_member: OfSchool & { class_id: string; student_id: string; period: Period }

  student: OfSchool & {
    id: string
    number: number | null
    legal_given_name: string
    legal_family_name: string
    preferred_name: string | null
    sort_name: string
    birth_date: CivilDate
    address: string | null
    ferry: string | null
    support_note: string | null
    accepted_for: string | null
    expected_in: string | null
    expected_from: CivilDate | null
    version: Generated<number>
  }
  student_number: OfSchool & { next: Generated<number> }
  guardian: OfSchool & {
    id: string
    given_name: string
    family_name: string
    email: string | null
    phone: string | null
    language: Generated<string>
    address: string | null
  }
  guardianship: OfSchool & {
    student_id: string
    guardian_id: string
    relation: string
    contact_order: number
    may_receive_reports: Generated<boolean>
  }
  enrolment: OfSchool & { student_id: string; year_id: string; year_group_id: string; period: Period }

  attendance_code: OfSchool & {
    id: string
    code: string
    label: string
    meaning:
      'present' | 'late' | 'absent with reason' | 'absent without reason' | 'elsewhere' | 'not expected'
    position: number
    first_day: CivilDate
    last_day: CivilDate | null
  }
  attendance_mark: OfSchool & {
    student_id: string
    session_date: CivilDate
    session: 'morning' | 'afternoon'
    homeroom_id: string
    code_id: string | null
    minutes_late: number | null
    note: string | null
    version: Generated<number>
    changed_by: string
    changed_at: Moment
  }

  document: OfSchool & {
    id: string
    name: string
    media_type: string
    size: number
    sha256: string
    page_count: number | null
    bytes: Buffer
    created_by: string
    created_at: Moment
  }
  learning_standard: OfSchool & { id: string; subject_id: string; code: string; statement: string }
  assessment: OfSchool & {
    id: string
    name: string
    subject_id: string
    owner_id: string
    document_id: string | null
    given_on: CivilDate
    secure_from: Generated<Decimal>
    nearly_from: Generated<Decimal>
    version: Generated<number>
    created_at: Moment
  }
  assessment_class: OfSchool & { assessment_id: string; class_id: string }
  question: OfSchool & {
    assessment_id: string
    id: string
    position: number
    choices: number
    key: string | null
    points: Decimal
    standard_id: string | null
    page: number | null
  }
  answer_sheet: OfSchool & {
    assessment_id: string
    student_id: string
    /** False once the answers were taken away again. */
    answered: Generated<boolean>
    version: Generated<number>
    changed_by: string
    changed_at: Moment
  }
  answer: OfSchool & { assessment_id: string; student_id: string; question_id: string; choice: string }
  assessment_score: OfSchool & {
    assessment_id: string
    student_id: string
    points: Decimal
    max_points: Decimal
    version: number
    changed_at: Date
    changed_by: string
  }

  gradebook: OfSchool & {
    class_id: string
    term_id: string
    decimals: Generated<number>
    empty_counts: Generated<'nothing' | 'zero after due'>
    missing_counts: Generated<'nothing' | 'zero'>
    version: Generated<number>
  }
  category: OfSchool & {
    id: string
    class_id: string
    term_id: string
    name: string
    weight: Decimal
    drop_lowest: Generated<number>
    position: number
  }
  assignment: OfSchool & {
    id: string
    class_id: string
    term_id: string
    category_id: string
    name: string
    max_points: Decimal
    due_on: CivilDate
    assessment_id: string | null
    counts: Generated<boolean>
    version: Generated<number>
  }
  score: OfSchool & {
    assignment_id: string
    student_id: string
    points: Decimal | null
    standing: 'missing' | 'excused' | null
    version: Generated<number>
    changed_by: string
    changed_at: Moment
  }

  report_round: OfSchool & {
    id: string
    year_id: string
    term_id: string
    name: string
    due_on: CivilDate
    comment_limit: Generated<number>
  }
  report_round_year_group: OfSchool & { round_id: string; year_group_id: string }
  class_entries: OfSchool & {
    round_id: string
    class_id: string
    state: Generated<'writing' | 'handed in' | 'sent back' | 'checked' | 'released'>
    remark: string | null
    changed_by: string | null
    changed_at: Moment | null
    version: Generated<number>
  }
  report_entry: OfSchool & {
    round_id: string
    class_id: string
    student_id: string
    effort: 'excellent' | 'good' | 'uneven' | 'low' | null
    comment: Generated<string>
    handed_mark: string | null
    handed_grade: string | null
    version: Generated<number>
    changed_by: string
    changed_at: Moment
  }
  report_card: OfSchool & {
    id: string
    round_id: string
    student_id: string
    issue: number
    contents: Json<unknown>
    left_out: string[]
    document_id: string
    released_by: string
    released_at: Moment
    replaced_at: Date | null
  }

  job: OfSchool & {
    id: string
    kind: 'print cards' | 'release cards'
    title: string
    input: Json<unknown>
    state: Generated<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>
    done: Generated<number>
    total: Generated<number>
    message: string | null
    document_id: string | null
    attempts: Generated<number>
    cancel_asked: Generated<boolean>
    account_id: string
    actor: string
    created_at: Moment
    started_at: Date | null
    finished_at: Date | null
  }
  mail: OfSchool & {
    id: string
    dedupe: string
    to_name: string
    to_address: string
    subject: string
    body: string
    student_id: string | null
    guardian_id: string | null
    state: Generated<'waiting' | 'sent' | 'failed'>
    error: string | null
    created_at: Moment
    sent_at: Date | null
  }
  mailbox: OfSchool & {
    message_id: string
    received_at: Moment
    sender: string
    recipient: string
    subject: string
    body: string
  }
}
