// Printed from the migrated database by `npm run kedge -- tables`; a test compares the two. Do not edit by hand.
import type { ColumnType, Generated, GeneratedAlways } from 'kysely'

/** A civil date, YYYY-MM-DD. */
type CivilDate = string
/** A half-open period of civil dates in PostgreSQL's text form, `[from,to)`. */
type Period = string
/** An exact decimal as text. */
type Decimal = string
/** ISO 8601 in UTC when read. */
type Moment<T> = ColumnType<T, Date | string | null | undefined, Date | string | null>
/** JSON, written as text. */
type Json<T> = ColumnType<T, string | undefined, string>

export interface Tables {
  absenceCall: {
    schoolId: string
    id: string
    studentId: string
    absentOn: CivilDate
    guardianId: string | null
    outcome: 'reached' | 'no answer' | 'message left' | 'wrong number'
    note: string | null
    callAgain: string | null
    calledBy: string
    calledAt: Moment<string>
  }
  absenceReport: {
    schoolId: string
    id: string
    studentId: string
    guardianId: string
    firstDay: CivilDate
    lastDay: CivilDate
    sessions: 'whole day' | 'morning' | 'afternoon'
    reason: string
    reportedAt: Moment<string>
    state: Generated<'waiting' | 'confirmed' | 'declined'>
    answer: string | null
    answeredBy: string | null
    version: Generated<number>
  }
  academicYear: {
    schoolId: string
    id: string
    name: string
    firstDay: CivilDate
    lastDay: CivilDate
    weekdays: number[]
    version: Generated<number>
  }
  analysisGroup: {
    schoolId: string
    id: string
    name: string
    version: Generated<number>
  }
  analysisGroupMember: {
    schoolId: string
    groupId: string
    studentId: string
    period: Period
  }
  answeredCommand: {
    schoolId: string
    accountId: string
    key: string
    command: string
    answer: Json<unknown>
    at: Moment<string>
    runId: string | null
    inputHash: string | null
  }
  askedQuestion: {
    schoolId: string
    assessmentId: string
    id: string
    position: number
    kind: string
    fromVersion: number
    content: Json<unknown>
    points: Decimal
    counts: string
  }
  assessment: {
    schoolId: string
    id: string
    name: string
    subjectId: string
    ownerId: string
    version: Generated<number>
    createdAt: Moment<string>
    description: string | null
    tags: Generated<string[]>
    yearGroupId: string | null
    attemptsCount: Generated<'latest' | 'best' | 'mean'>
    seriesId: string | null
  }
  assessmentLevel: {
    schoolId: string
    assessmentId: string
    position: number
    name: string
    fromPercent: Decimal | null
    fromPoints: Decimal | null
  }
  assessmentResult: {
    schoolId: string
    assessmentId: string
    studentId: string
    points: Decimal
    unmarked: number
    version: number
    changedAt: Moment<string>
    changedBy: string
  }
  assessmentShare: {
    schoolId: string
    assessmentId: string
    id: string
    staffId: string | null
    courseId: string | null
    yearGroupId: string | null
    maySeeResults: Generated<boolean>
    mayGive: Generated<boolean>
    mayEdit: Generated<boolean>
  }
  assessmentStandardResult: {
    schoolId: string
    assessmentId: string
    standardId: string
    studentId: string
    points: Decimal
    unmarked: number
    version: number
    changedAt: Moment<string>
    changedBy: string
  }
  assessmentStandardTotal: {
    schoolId: string
    assessmentId: string
    standardId: string
    most: Decimal
  }
  assessmentTotal: {
    schoolId: string
    assessmentId: string
    most: Decimal
  }
  assignment: {
    schoolId: string
    id: string
    classId: string
    termId: string
    categoryId: string
    name: string
    maxPoints: Decimal
    dueOn: CivilDate
    assessmentId: string | null
    counts: Generated<boolean>
    version: Generated<number>
    standardId: string | null
    scaled: Generated<boolean>
    extra: Generated<boolean>
    description: Generated<string>
    tags: Generated<string[]>
    givenOn: CivilDate | null
    shownFrom: CivilDate | null
    position: number | null
  }
  attempt: {
    schoolId: string
    assessmentId: string
    studentId: string
    number: Generated<number>
    state: 'working' | 'handed in' | 'taken back' | 'void'
    voidReason: string | null
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
  }
  attemptResult: {
    schoolId: string
    assessmentId: string
    studentId: string
    attempt: number
    version: number
    changedBy: string
    changedAt: Moment<string>
    points: Decimal
    unmarked: number
    counts: boolean
  }
  attendanceCode: {
    schoolId: string
    id: string
    code: string
    label: string
    meaning: 'present' | 'late' | 'absent with reason' | 'absent without reason' | 'elsewhere' | 'not expected'
    position: number
    setId: string
    familyLabel: string | null
    needsMinutes: Generated<boolean>
    needsNote: Generated<boolean>
    officeOnly: Generated<boolean>
  }
  attendanceCodeSet: {
    schoolId: string
    id: string
    name: string
    firstDay: CivilDate
    lastDay: CivilDate | null
    version: Generated<number>
  }
  attendanceMark: {
    schoolId: string
    studentId: string
    sessionDate: CivilDate
    session: string
    homeroomId: string | null
    codeId: string | null
    minutesLate: number | null
    note: string | null
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
    reason: string | null
    classId: string | null
    kept: Generated<boolean>
  }
  category: {
    schoolId: string
    id: string
    classId: string
    termId: string
    name: string
    weight: Decimal
    dropLowest: Generated<number>
    position: number
    within: Generated<'points' | 'pieces'>
  }
  class: {
    schoolId: string
    id: string
    yearId: string
    courseId: string
    scaleId: string
    name: string
    version: Generated<number>
    roomId: string | null
  }
  classEntries: {
    schoolId: string
    roundId: string
    classId: string
    state: Generated<'writing' | 'handed in' | 'sent back' | 'checked' | 'released'>
    remark: string | null
    changedBy: string | null
    changedAt: Moment<string | null>
    version: Generated<number>
  }
  classMarks: {
    schoolId: string
    id: string
    classId: string
    termId: string | null
    periodId: string | null
    state: 'open' | 'confirmed' | 'closed'
    reason: string | null
    changedBy: string
    changedAt: Moment<string>
    version: Generated<number>
  }
  classMember: {
    schoolId: string
    classId: string
    studentId: string
    period: Period
  }
  classTeacher: {
    schoolId: string
    classId: string
    staffId: string
    period: Period
  }
  classTerm: {
    schoolId: string
    classId: string
    termId: string
  }
  closure: {
    schoolId: string
    id: string
    yearId: string
    kind: 'break' | 'holiday' | 'staff day'
    name: string
    firstDay: CivilDate
    lastDay: CivilDate
    version: Generated<number>
    countedUntil: CivilDate | null
  }
  columnEntry: {
    schoolId: string
    columnId: string
    studentId: string
    value: string | null
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
  }
  commandRun: {
    schoolId: string
    id: string
    command: string
    input: Json<unknown>
    accountId: string
    at: Moment<string>
    undoneAt: Moment<string | null>
  }
  countedResponse: {
    schoolId: string
    assessmentId: string
    studentId: string
    attempt: number
    questionId: string
    value: Json<unknown>
    points: Decimal
    source: string
    unmarked: boolean
  }
  course: {
    schoolId: string
    id: string
    subjectId: string
    yearGroupId: string
    name: string
  }
  dataCheck: {
    schoolId: string
    checkedAt: Moment<string>
    found: Json<unknown>
  }
  departure: {
    schoolId: string
    studentId: string
    lastDay: CivilDate
    reason: string
    destination: string | null
  }
  document: {
    schoolId: string
    id: string
    name: string
    mediaType: string
    size: number
    sha256: string
    pageCount: number | null
    createdBy: string
    createdAt: Moment<string>
    purpose: Generated<string>
  }
  documentContents: {
    schoolId: string
    documentId: string
    bytes: Buffer
  }
  enrolment: {
    schoolId: string
    studentId: string
    yearId: string
    yearGroupId: string
    period: Period
  }
  feed: {
    schoolId: string
    roundId: string
    classId: string
    lineId: string
    columnId: string | null
    version: Generated<number>
  }
  form: {
    schoolId: string
    assessmentId: string
    id: string
    position: Generated<number>
  }
  formDocument: {
    schoolId: string
    assessmentId: string
    formId: string
    position: Generated<number>
    documentId: string
  }
  formSource: {
    schoolId: string
    assessmentId: string
    formId: string
    position: number
    documentId: string
    jobId: string | null
  }
  gradebook: {
    schoolId: string
    classId: string
    termId: string
    decimals: Generated<number>
    emptyCounts: Generated<'nothing' | 'zero after due'>
    missingCounts: Generated<'nothing' | 'zero'>
    version: Generated<number>
    method: Generated<'weights' | 'points'>
    incompleteCounts: Generated<'nothing' | 'zero'>
    latePercent: Decimal | null
    lateOf: 'points scored' | 'points possible' | null
    most: Generated<Decimal | null>
  }
  gradingBand: {
    schoolId: string
    scaleId: string
    grade: string
    fromPercent: Decimal
    startsOn: Generated<CivilDate>
  }
  gradingScale: {
    schoolId: string
    id: string
    name: string
    version: Generated<number>
  }
  guardian: {
    schoolId: string
    id: string
    givenName: string
    familyName: string
    email: string | null
    phone: string | null
    language: Generated<string>
    address: string | null
    version: Generated<number>
    fieldVersions: Json<unknown>
    plainName: GeneratedAlways<string | null>
  }
  guardianship: {
    schoolId: string
    studentId: string
    guardianId: string
    relation: string
    contactOrder: number
    mayReceiveReports: Generated<boolean>
    version: Generated<number>
  }
  heldMark: {
    schoolId: string
    marksId: string
    studentId: string
    source: string
    columnId: string | null
    num: Decimal | null
    den: Decimal | null
    mark: string | null
    grade: string | null
    explanation: Json<unknown>
    rulesVersion: number
  }
  history: {
    schoolId: string
    id: Generated<string>
    at: Moment<string>
    accountId: string | null
    actor: string
    command: string
    tableName: string
    rowKey: Json<Record<string, string>>
    studentId: string | null
    operation: 'insert' | 'update' | 'delete'
    before: Json<Record<string, unknown> | null>
    after: Json<Record<string, unknown> | null>
    runId: string | null
    undoes: string | null
  }
  homeroom: {
    schoolId: string
    id: string
    yearId: string
    yearGroupId: string
    name: string
    version: Generated<number>
    roomId: string | null
    lastDay: CivilDate | null
  }
  homeroomClass: {
    schoolId: string
    homeroomId: string
    classId: string
  }
  homeroomMember: {
    schoolId: string
    homeroomId: string
    studentId: string
    period: Period
  }
  homeroomTeacher: {
    schoolId: string
    homeroomId: string
    staffId: string
    period: Period
  }
  invitation: {
    schoolId: string
    id: string
    role: 'guardian' | 'student'
    personId: string
    name: string
    email: string
    createdAt: Moment<string>
    acceptedAt: Moment<string | null>
    accountId: string | null
  }
  job: {
    schoolId: string
    id: string
    kind: string
    title: string
    input: Json<unknown>
    state: Generated<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>
    done: Generated<number>
    total: Generated<number>
    message: string | null
    documentId: string | null
    attempts: Generated<number>
    cancelAsked: Generated<boolean>
    accountId: string
    actor: string
    createdAt: Moment<string>
    startedAt: Moment<string | null>
    finishedAt: Moment<string | null>
    liveKey: string | null
    finished: Json<readonly string[] | null>
    dismissedAt: Moment<string | null>
    result: Json<unknown>
    runId: string | null
  }
  keyVersion: {
    schoolId: string
    assessmentId: string
    number: number
    reason: string | null
    madeBy: string
    madeAt: Moment<string>
  }
  lesson: {
    schoolId: string
    id: string
    timetableId: string
    cycleDay: number
    period: number
    classId: string
    roomId: string | null
    version: Generated<number>
    days: Generated<Period>
  }
  lessonChange: {
    schoolId: string
    classId: string
    onDate: CivilDate
    period: number
    cancelled: Generated<boolean>
    staffId: string | null
    roomId: string | null
    note: string | null
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
  }
  letterTemplate: {
    schoolId: string
    id: string
    name: string
    subject: string
    body: string
    version: Generated<number>
  }
  mail: {
    schoolId: string
    id: string
    dedupe: string
    toName: string
    toAddress: string
    subject: string
    body: string | null
    studentId: string | null
    guardianId: string | null
    state: Generated<'waiting' | 'sent' | 'failed'>
    error: string | null
    createdAt: Moment<string>
    sentAt: Moment<string | null>
    kind: Generated<string>
    about: Json<unknown>
  }
  markColumn: {
    schoolId: string
    id: string
    classId: string
    termId: string | null
    name: string
    does: 'mean' | 'sum' | 'best' | 'latest' | 'count' | 'choice' | 'number'
    take: number | null
    decimals: Generated<number>
    position: Generated<number>
    version: Generated<number>
  }
  markColumnLevel: {
    schoolId: string
    columnId: string
    position: number
    name: string
    fromValue: Decimal | null
  }
  markColumnPart: {
    schoolId: string
    columnId: string
    position: number
    weight: Generated<Decimal>
    assignmentId: string | null
    categoryId: string | null
    marksTermId: string | null
    periodId: string | null
    partColumnId: string | null
  }
  membership: {
    schoolId: string
    accountId: string
    role: 'administrator' | 'head' | 'office' | 'records' | 'teacher' | 'student' | 'guardian'
    personId: string
    name: string
    active: Generated<boolean>
  }
  occurrence: {
    schoolId: string
    name: string
    day: CivilDate
  }
  plannedAbsence: {
    schoolId: string
    id: string
    studentId: string
    firstDay: CivilDate
    lastDay: CivilDate
    sessions: 'whole day' | 'morning' | 'afternoon' | 'lessons'
    codeId: string
    note: string | null
    enteredBy: string
    version: Generated<number>
    firstPeriod: number | null
    lastPeriod: number | null
    part: GeneratedAlways<string>
  }
  question: {
    schoolId: string
    assessmentId: string
    id: string
    position: number | null
    kind: 'one choice' | 'several choices' | 'true or false' | 'number' | 'short text' | 'written'
    rationale: string | null
    choiceRationales: Json<unknown>
  }
  questionKey: {
    schoolId: string
    assessmentId: string
    questionId: string
    fromVersion: number
    untilVersion: number | null
    content: Json<unknown>
    points: Decimal
    counts: Generated<'keyed' | 'dropped' | 'given'>
  }
  questionPlace: {
    schoolId: string
    assessmentId: string
    formId: string
    questionId: string
    page: number
    x: string | null
    y: string | null
    width: string | null
    height: string | null
  }
  questionStandard: {
    schoolId: string
    assessmentId: string
    questionId: string
    standardId: string
  }
  registerReminder: {
    schoolId: string
    id: string
    homeroomId: string | null
    classId: string | null
    sessionDate: CivilDate
    session: string
    remindedBy: string
    remindedAt: Moment<string>
  }
  reportCard: {
    schoolId: string
    id: string
    roundId: string
    studentId: string
    issue: number
    contents: Json<unknown>
    leftOut: string[]
    documentId: string
    releasedBy: string
    releasedAt: Moment<string>
    replacedAt: Moment<string | null>
  }
  reportEntry: {
    schoolId: string
    roundId: string
    classId: string
    studentId: string
    effort: 'excellent' | 'good' | 'uneven' | 'low' | null
    comment: Generated<string>
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
  }
  reportLine: {
    schoolId: string
    id: string
    roundId: string
    name: string
    kind: 'mark' | 'word'
    position: number
  }
  reportRound: {
    schoolId: string
    id: string
    yearId: string
    termId: string
    name: string
    dueOn: CivilDate
    commentLimit: Generated<number>
  }
  reportRoundYearGroup: {
    schoolId: string
    roundId: string
    yearGroupId: string
  }
  response: {
    schoolId: string
    assessmentId: string
    studentId: string
    attempt: Generated<number>
    questionId: string
    value: Json<unknown>
  }
  responsePoints: {
    schoolId: string
    assessmentId: string
    studentId: string
    attempt: Generated<number>
    questionId: string
    source: 'key' | 'rubric' | 'hand' | 'override'
    points: Decimal
    keyVersion: number | null
    reason: string | null
  }
  room: {
    schoolId: string
    id: string
    name: string
    version: Generated<number>
  }
  scaleChange: {
    schoolId: string
    scaleId: string
    startsOn: CivilDate
  }
  school: {
    id: string
    name: string
    shortName: string
    locale: Generated<string>
    timeZone: Generated<string>
    createdAt: Moment<string>
    address: string | null
    version: Generated<number>
  }
  schoolSetting: {
    schoolId: string
    teachersSee: Generated<'places' | 'details' | 'contacts'>
    version: Generated<number>
    attendanceThreshold: Generated<number>
  }
  score: {
    schoolId: string
    assignmentId: string
    studentId: string
    points: Decimal | null
    standing: 'missing' | 'excused' | 'incomplete' | null
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
    late: boolean | null
  }
  scoreNote: {
    schoolId: string
    assignmentId: string
    studentId: string
    note: Generated<string>
    version: Generated<number>
    changedBy: string
    changedAt: Moment<string>
  }
  sitting: {
    schoolId: string
    assessmentId: string
    id: string
    formId: string
    givenOn: CivilDate
    givenBy: string
    version: Generated<number>
  }
  sittingClass: {
    schoolId: string
    assessmentId: string
    sittingId: string
    classId: string
  }
  staffMember: {
    schoolId: string
    id: string
    givenName: string
    familyName: string
    sortName: string
    email: string | null
    phone: string | null
    version: Generated<number>
    fieldVersions: Json<unknown>
    emailForGuardians: Generated<boolean>
    lastDay: CivilDate | null
  }
  standard: {
    schoolId: string
    id: string
    setId: string
    parentId: string | null
    position: Generated<number>
    code: string | null
    statement: string
    years: Generated<string[]>
    source: string | null
  }
  standardSet: {
    schoolId: string
    id: string
    name: string
    subjectId: string | null
    source: string | null
    version: Generated<number>
  }
  standardThreshold: {
    schoolId: string
    assessmentId: string
    standardId: string
    position: number
    fromPercent: Decimal | null
    fromPoints: Decimal | null
  }
  student: {
    schoolId: string
    id: string
    number: number | null
    legalGivenName: string
    legalFamilyName: string
    preferredName: string | null
    sortName: string
    birthDate: CivilDate
    address: string | null
    transport: string | null
    supportNote: string | null
    acceptedFor: string | null
    expectedIn: string | null
    expectedFrom: CivilDate | null
    version: Generated<number>
    pronouns: string | null
    medicalNote: string | null
    rollVersion: Generated<number>
    fieldVersions: Json<unknown>
    photoId: string | null
    mergedInto: string | null
    plainName: GeneratedAlways<string | null>
  }
  studentNumber: {
    schoolId: string
    next: Generated<number>
  }
  subject: {
    schoolId: string
    id: string
    name: string
    position: number
    version: Generated<number>
  }
  term: {
    schoolId: string
    id: string
    yearId: string
    name: string
    position: number
    firstDay: CivilDate
    lastDay: CivilDate
    version: Generated<number>
    open: Generated<boolean>
  }
  termPeriod: {
    schoolId: string
    id: string
    termId: string
    kind: 'marking' | 'exams'
    name: string
    firstDay: CivilDate
    lastDay: CivilDate
    version: Generated<number>
  }
  timetable: {
    schoolId: string
    id: string
    name: string
    firstDay: CivilDate
    lastDay: CivilDate | null
    cycle: 'week' | 'two weeks' | 'days'
    cycleDays: number
    version: Generated<number>
  }
  timetablePeriod: {
    schoolId: string
    timetableId: string
    number: number
    starts: string
    ends: string
  }
  yearGroup: {
    schoolId: string
    id: string
    name: string
    position: number
    version: Generated<number>
    registers: Generated<'half-days' | 'lessons' | 'both'>
  }
  'auth.account': {
    id: string
    userId: string
    accountId: string
    providerId: string
    password: string | null
    accessToken: string | null
    refreshToken: string | null
    idToken: string | null
    scope: string | null
    accessTokenExpiresAt: Moment<string | null>
    refreshTokenExpiresAt: Moment<string | null>
    createdAt: Moment<string>
    updatedAt: Moment<string>
  }
  'auth.calendar_feed': {
    token_hash: string
    school_id: string
    account_id: string
    created_at: Moment<string>
  }
  'auth.one_time_link': {
    token_hash: string
    school_id: string
    invitation_id: string | null
    expires_at: Moment<string>
    used_at: Moment<string | null>
    account_id: string | null
    address: string | null
  }
  'auth.session': {
    id: string
    userId: string
    token: string
    expiresAt: Moment<string>
    ipAddress: string | null
    userAgent: string | null
    createdAt: Moment<string>
    updatedAt: Moment<string>
    schoolId: string | null
    active_at: Moment<string>
    shared_computer: Generated<boolean>
  }
  'auth.sign_in_attempt': {
    name: string
    at: Moment<string>
  }
  'auth.user': {
    id: string
    name: string
    email: string
    emailVerified: Generated<boolean>
    image: string | null
    username: string | null
    displayUsername: string | null
    mustChangePassword: Generated<boolean>
    createdAt: Moment<string>
    updatedAt: Moment<string>
    lastSchoolId: string | null
  }
  'auth.verification': {
    id: string
    identifier: string
    value: string
    expiresAt: Moment<string>
    createdAt: Moment<string | null>
    updatedAt: Moment<string | null>
  }
  'standIn.mailbox': {
    schoolId: string
    messageId: string
    receivedAt: Moment<string>
    sender: string
    recipient: string
    subject: string
    body: string
  }
}
