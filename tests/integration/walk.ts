import { v7 as uuid } from 'uuid'
import { randomUUID } from 'node:crypto'
import type { Actor, Role } from '@/server/platform/actor'
import { openSchool, type TestSchool } from './school'

// What walks over the whole registry need: a school, somebody of every role, and an input for every entry.

export let school: TestSchool
export const actors = {} as Record<Role, Actor>
export let stranger: Actor
export let own: Record<string, string>
export let foreign: Record<string, string>
let jobOf: Record<string, string>
let runOf: Record<string, string>

/** Opens the school of a walk, with somebody of every role, and objects that are the teacher's own and foreign ones. */
export async function openWalk(): Promise<void> {
  school = await openSchool()
  for (const [role, username] of [
    ['administrator', 'm.vester'],
    ['head', 's.kirkness'],
    ['office', 'e.leask'],
    ['records', 'p.ilves'],
    ['teacher', 'r.achterberg'],
    ['guardian', 'hana.marsh@islandmail.example'],
  ] as const)
    actors[role] = await school.actor(username)
  // The demo has no student accounts yet; the role exists and must get nothing.
  await school.rows(
    `insert into auth."user" (id, name, email) values ('student', 'Somebody', 'somebody@islandmail.example')`,
  )
  await school.rows(
    `insert into auth.account (id, "userId", "accountId", "providerId", password) values ('student', 'student', 'student', 'credential', 'none')`,
  )
  actors.student = { ...actors.guardian, roles: ['student'], guardianId: null, accountId: 'student' }
  const objects = async (className: string, homeroom: string) => {
    const c = await school.row('select id, year_id from class where name = $1', [className])
    const student = await school.row(
      'select student_id as id from class_member where class_id = $1 and upper(period) is null order by student_id limit 1',
      [c.id],
    )
    const term = await school.row("select id from term where name = 'Autumn'")
    const category = await school.row(
      'select id from category where class_id = $1 and term_id = $2 order by position limit 1',
      [c.id, term.id],
    )
    const assignment = await school.row(
      'select id from assignment where class_id = $1 and assessment_id is null limit 1',
      [c.id],
    )
    const round = await school.row('select id from report_round')
    const h = await school.row('select id from homeroom where name = $1', [homeroom])
    return {
      classId: c.id,
      studentId: student.id,
      termId: term.id,
      categoryId: category.id,
      assignmentId: assignment.id,
      roundId: round.id,
      homeroomId: h.id,
      yearId: c.yearId,
    }
  }
  own = await objects('7 Science A', '7 Tern')
  foreign = await objects('7 Mathematics B', '7 Plover')
  const assessment = await school.row('select id, school_id, subject_id from assessment')
  const mathematics = await school.row("select id from subject where name = 'Mathematics'")
  const other = await school.row('select t.staff_id from class_teacher t where t.class_id = $1', [
    foreign.classId,
  ])
  const made = '00000000-0000-7000-8000-0000000000ff'
  await school.rows(
    'insert into assessment (school_id, id, name, subject_id, owner_id, given_on) values ($1, $2, $3, $4, $5, $6)',
    [assessment.schoolId, made, 'Angles', mathematics.id, other.staffId, '2026-11-20'],
  )
  await school.rows('insert into assessment_class (school_id, assessment_id, class_id) values ($1, $2, $3)', [
    assessment.schoolId,
    made,
    foreign.classId,
  ])
  await school.rows(
    "insert into question (school_id, assessment_id, id, position, choices, key) values ($1, $2, $2, 1, 4, 'A')",
    [assessment.schoolId, made],
  )
  own.staffId = foreign.staffId = other.staffId
  own.assessmentId = assessment.id
  foreign.assessmentId = made
  const timetable = await school.row('select id from timetable')
  own.timetableId = foreign.timetableId = timetable.id
  const template = await school.row('select id from letter_template')
  own.templateId = foreign.templateId = template.id
  const ilse = await school.row("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
  own.childId = foreign.childId = ilse.id
  const document = await school.row('select id from document limit 1')
  own.documentId = foreign.documentId = document.id
  await school.rows('update assessment set document_id = $1', [document.id])
  jobOf = {}
  runOf = {}
  const mail = crypto.randomUUID()
  await school.rows(
    "insert into mail (school_id, id, dedupe, to_name, to_address, subject, body) values ($1, $2, 'rights', 'A', 'a@b.example', 's', 'b')",
    [assessment.schoolId, mail],
  )
  own.mailId = foreign.mailId = mail
  for (const role of Object.keys(actors) as Role[]) {
    const id = crypto.randomUUID()
    await school.rows(
      "insert into job (school_id, id, kind, title, input, account_id, actor, state) values ($1, $2, 'work.largeAct', 't', '{}', $3, 'x', 'failed')",
      [assessment.schoolId, id, actors[role].accountId],
    )
    jobOf[role] = id
    await school.rows(
      "insert into command_run (school_id, id, command, input, account_id) values ($1, $2, 'attendance.markRest', '{}', $3)",
      [assessment.schoolId, id, actors[role].accountId],
    )
    runOf[role] = id
  }
  stranger = {
    ...actors.administrator,
    accountId: 'stranger',
    schoolId: crypto.randomUUID(),
    schoolName: 'Another',
  }
}

const mark = (o: Record<string, string>) => ({
  homeroomId: o.homeroomId,
  date: '2026-11-23',
  session: 'morning',
})
const figuresOf = (o: Record<string, string>) => ({
  kind: 'class',
  id: o.classId,
  from: '2026-09-01',
  to: '2026-12-18',
  date: '2026-11-23',
  sessions: 'half-days',
})
const lettersOf = (o: Record<string, string>) => ({
  templateId: o.templateId,
  seen: 0,
  studentIds: [o.studentId],
  from: '2026-09-01',
  date: '2026-11-23',
  sessions: 'half-days',
  classId: null,
  again: false,
})
const classEntries = (o: Record<string, string>) => ({ roundId: o.roundId, classId: o.classId })

/** An input for every entry, for one's own objects or foreign ones. What is tested is the right, not what then happens. */
export function inputFor(name: string, o: Record<string, string>, role: Role, isOwn: boolean): object {
  const inputs: Readonly<Record<string, () => object>> = {
    'year.calendar': () => ({ date: '2026-11-23' }),
    'year.classesAndParts': () => ({ date: '2026-11-23' }),
    'year.setUp': () => ({ date: '2026-11-23' }),
    'year.touchedBy': () => ({ firstDay: '2026-11-23', lastDay: '2026-11-23' }),
    'year.addSubjects': () => ({ names: ['Science'] }),
    'year.saveClass': () => ({
      classId: o.classId,
      seen: 0,
      yearId: o.yearId,
      name: 'x',
      subjectId: o.roundId,
      yearGroupId: o.roundId,
      scaleId: o.roundId,
      termIds: [o.termId],
      staffIds: [],
      homeroomIds: [],
      from: '2020-01-01',
    }),
    'year.scales': () => ({}),
    'year.settings': () => ({}),
    'year.saveSettings': () => ({ teachersSee: 'places', attendanceThreshold: 90, seen: 0 }),
    'people.classMembers': () => ({ classId: o.classId, date: '2026-11-23' }),
    'people.recipients': () => ({ studentIds: [o.studentId], guardianIds: [] }),
    'people.writeMessage': () => ({
      studentIds: [o.studentId],
      guardianIds: [],
      subject: 'Ferry',
      text: 'No ferry on Friday.',
    }),
    'record.short': () => ({ studentId: o.studentId, date: '2026-11-23' }),
    'record.merge': () => ({ keepId: o.studentId, dropId: o.studentId }),
    'people.setPhoto': () => ({ studentId: o.studentId, seenPhotoId: null, bytes: Buffer.from('x') }),
    'people.removePhoto': () => ({ studentId: o.studentId, seenPhotoId: null }),
    'year.addRooms': () => ({ names: ['Laboratory'] }),
    'year.saveHomeroom': () => ({
      homeroomId: o.homeroomId,
      seen: 0,
      roomId: null,
      staffIds: [],
      from: '2026-11-23',
    }),
    'year.closeHomeroom': () => ({ homeroomId: o.homeroomId, seen: 0, lastDay: '2026-11-23' }),
    'year.saveScale': () => ({
      scaleId: null,
      seen: 0,
      name: `Scale ${Math.random()}`,
      bands: [
        { grade: 'A', fromPercent: '50' },
        { grade: 'B', fromPercent: '0' },
      ],
    }),
    'year.removeScale': () => ({ scaleId: o.classId, seen: 0 }),
    'year.saveClosure': () => ({
      closureId: null,
      seen: 0,
      yearId: o.yearId,
      kind: 'holiday',
      name: 'x',
      firstDay: '2020-01-01',
      lastDay: '2020-01-01',
    }),
    'year.renamePart': () => ({ kind: 'subject', partId: o.roundId, seen: 0, name: 'Astronomy' }),
    'year.removePart': () => ({ kind: 'subject', partId: o.roundId, seen: 0 }),
    'year.orderParts': () => ({ kind: 'subject', ids: [o.roundId] }),
    'year.feed': () => ({}),
    'year.setFeed': () => ({ token: 'x'.repeat(43) }),
    'people.groups': () => ({ date: '2026-11-23' }),
    'people.addGroups': () => ({ names: ['Choir', 'choir'] }),
    'people.saveGroup': () => ({ groupId: o.roundId, seen: 0, name: 'x' }),
    'people.removeGroup': () => ({ groupId: o.roundId, seen: 0 }),
    'people.guardians': () => ({ date: '2026-11-23' }),
    'year.carryPlan': () => ({ termId: o.termId }),
    'year.carryForward': () => ({
      fromTermId: o.termId,
      toTermId: o.roundId,
      classIds: [o.classId],
      withStudents: true,
    }),
    'year.setUpCheck': () => ({ date: '2026-11-23' }),
    'year.enrolledIn': () => ({ date: '2026-11-23', chosen: [{ by: 'subject', title: 'Science' }] }),
    'year.savePeriod': () => ({
      periodId: null,
      seen: 0,
      termId: o.termId,
      kind: 'exams',
      name: 'Exams',
      firstDay: '2020-12-01',
      lastDay: '2020-12-04',
    }),
    'year.removePeriod': () => ({ periodId: o.yearId, seen: 0 }),
    'year.saveTerm': () => ({
      termId: null,
      seen: 0,
      yearId: o.yearId,
      name: 'Autumn',
      firstDay: '2026-09-01',
      lastDay: '2026-09-02',
    }),
    'year.removeTerm': () => ({ termId: o.roundId, seen: 0 }),
    'year.setTermOpen': () => ({ termId: o.roundId, seen: 0, open: true }),
    'year.saveYear': () => ({
      yearId: o.yearId,
      seen: 0,
      name: 'x',
      firstDay: '2026-09-01',
      lastDay: '2026-09-02',
      weekdays: [1],
    }),
    'year.removeClosure': () => ({ closureId: o.roundId, seen: 0 }),
    'today.due': () => ({ date: '2026-11-23' }),
    'attendance.registersOfDay': () => ({ date: '2026-11-23' }),
    'attendance.codeSets': () => ({}),
    'attendance.correctable': () => ({ date: '2026-11-23' }),
    'attendance.planned': () => ({ date: '2026-11-23' }),
    'attendance.callList': () => ({ date: '2026-11-23' }),
    'attendance.noteCall': () => ({
      studentId: o.studentId,
      date: '2026-11-23',
      guardianId: null,
      outcome: 'no answer',
      note: null,
      callAgain: null,
      codeId: null,
    }),
    'attendance.savePlanned': () => ({
      plannedId: null,
      seen: 0,
      studentId: o.studentId,
      firstDay: '2027-02-01',
      lastDay: '2027-02-01',
      sessions: 'morning',
      codeId: o.roundId,
      note: null,
    }),
    'attendance.removePlanned': () => ({ plannedId: o.classId, seen: 0 }),
    'attendance.endPlanned': () => ({
      homeroomId: o.homeroomId,
      date: '2026-11-23',
      plannedId: o.classId,
      seen: 0,
    }),
    'attendance.lessonRegister': () => ({ classId: o.classId, date: '2026-11-23', session: '1' }),
    'attendance.setLessonMarks': () => ({
      classId: o.classId,
      date: '2026-11-23',
      session: '1',
      cells: [
        { key: { studentId: o.studentId }, value: { codeId: null, minutesLate: null, note: null }, seen: 0 },
      ],
    }),
    'attendance.markLessonRest': () => ({
      classId: o.classId,
      date: '2026-11-23',
      session: '1',
      codeId: o.roundId,
    }),
    'attendance.endPlannedInLesson': () => ({
      classId: o.classId,
      date: '2026-11-23',
      plannedId: o.roundId,
      seen: 0,
    }),
    'attendance.lessonsOfDay': () => ({ date: '2026-11-23' }),
    'attendance.ownLessons': () => ({ date: '2026-11-23' }),
    'attendance.unusual': () => ({ date: '2026-11-23' }),
    'attendance.figures': () => figuresOf(o),
    'attendance.sessionsBehind': () => figuresOf(o),
    'attendance.certificate': () => ({
      id: o.studentId,
      from: '2026-09-01',
      to: '2026-12-18',
      date: '2026-11-23',
    }),
    'attendance.figureChoices': () => ({ date: '2026-11-23' }),
    'attendance.inBuilding': () => ({}),
    'attendance.sheets': () => ({ date: '2026-11-23', of: 'homerooms', id: o.homeroomId }),
    'attendance.remind': () => ({
      homeroomId: o.homeroomId,
      classId: null,
      date: '2027-11-23',
      session: 'morning',
    }),
    'attendance.letters': () => ({}),
    'attendance.lettersToSend': () => lettersOf(o),
    'attendance.sendLetters': () => lettersOf(o),
    'attendance.saveLetterTemplate': () => ({
      templateId: null,
      seen: 0,
      name: `Letter ${Math.random()}`,
      subject: 'x',
      body: 'x',
    }),
    'attendance.removeLetterTemplate': () => ({ templateId: o.roundId, seen: 0 }),
    'attendance.ownReports': () => ({}),
    'attendance.reportAbsence': () => ({
      studentId: role === 'guardian' && isOwn ? o.childId : o.studentId,
      firstDay: '2020-01-01',
      lastDay: '2020-01-01',
      sessions: 'morning',
      reason: 'Fever',
    }),
    'attendance.withdrawReport': () => ({ reportId: o.roundId, seen: 0 }),
    'attendance.declineReport': () => ({ reportId: o.roundId, seen: 0, answer: 'x' }),
    'year.setRegisters': () => ({
      groups: [{ yearGroupId: o.roundId, seen: 0, registers: 'both' }],
    }),
    'timetable.shown': () => ({ date: '2026-11-23' }),
    'timetable.saveTimetable': () => ({
      timetableId: null,
      seen: 0,
      name: 'x',
      firstDay: '2026-11-23',
      lastDay: '2026-11-23',
      cycle: 'week',
      cycleDays: 5,
      periods: [{ starts: '09:00', ends: '10:00' }],
    }),
    'timetable.removeTimetable': () => ({ timetableId: o.roundId, seen: 0 }),
    'timetable.setLesson': () => ({
      timetableId: o.timetableId,
      cycleDay: 1,
      period: 1,
      gone: null,
      lesson: null,
      confirmed: false,
    }),
    'timetable.replaceLessons': () => ({ timetableId: o.timetableId, seen: 0, lessons: [] }),
    'timetable.changeLesson': () => ({
      classId: o.classId,
      date: '2026-11-22',
      period: 1,
      seen: 0,
      cancelled: false,
      staffId: null,
      roomId: null,
      note: null,
      confirmed: false,
    }),
    'attendance.correct': () => ({
      studentIds: [o.studentId],
      firstDay: '2026-11-20',
      lastDay: '2026-11-20',
      sessions: ['morning'],
      codeId: o.roundId,
      note: null,
      reason: 'The ferry did not run',
      replace: false,
    }),
    'attendance.saveCodeSet': () => ({
      setId: null,
      seen: 0,
      name: 'Another set',
      firstDay: '2018-01-01',
      lastDay: '2018-12-31',
      codes: (['present', 'absent without reason'] as const).map((meaning, i) => ({
        id: uuid(),
        code: i === 0 ? 'P' : 'A',
        label: meaning,
        familyLabel: null,
        meaning,
        needsMinutes: false,
        needsNote: false,
        officeOnly: false,
      })),
    }),
    'attendance.removeCodeSet': () => ({ setId: o.classId, seen: 0 }),
    'people.list': () => ({ date: '2026-11-23' }),
    'people.student': () => ({ studentId: o.studentId }),
    'find.anything': () => ({ text: 'il' }),
    'people.possibleDuplicates': () => ({ givenName: 'A', familyName: 'B', birthDate: '2014-01-01' }),
    'people.enrolForm': () => ({ startDate: '2026-11-23' }),
    'people.applicantGuardians': () => ({ studentId: o.studentId }),
    'people.inviteAgain': () => ({ studentId: o.studentId, guardianId: o.roundId }),
    'people.endGuardianAccess': () => ({ studentId: o.studentId, guardianId: o.roundId }),
    'staff.list': () => ({ date: '2026-11-23' }),
    'staff.member': () => ({ staffId: o.staffId }),
    'staff.ownAddress': () => ({}),
    'staff.shareAddress': () => ({ shared: false }),
    'staff.sessions': () => ({ staffId: o.staffId }),
    'staff.endSession': () => ({ staffId: o.staffId, sessionId: 'none' }),
    'staff.ofChildren': () => ({}),
    'staff.create': () => ({
      givenName: 'A',
      familyName: 'B',
      username: 'a.b',
      roles: ['teacher'],
      password: 'short',
    }),
    'staff.setMember': () => ({
      staffId: o.staffId,
      cells: [{ key: { field: 'phone' }, value: '1', seen: 99 }],
    }),
    'staff.setRoles': () => ({ staffId: o.staffId, seen: 0, roles: ['teacher'] }),
    'staff.resetPassword': () => ({ staffId: o.staffId, seen: 0, password: 'x' }),
    'staff.deactivate': () => ({ staffId: o.staffId, seen: 0, lastDay: '2026-11-23' }),
    'staff.reactivate': () => ({ staffId: o.staffId, seen: 0 }),
    'staff.mailSignIn': () => ({ staffId: o.staffId }),
    'people.setStudent': () => ({
      studentId: o.studentId,
      cells: [{ key: { field: 'birthDate' }, value: '2099-01-01', seen: 0 }],
    }),
    'people.place': () => ({
      students: [{ studentId: o.studentId, seen: 0 }],
      from: '2020-01-01',
      homeroomId: o.homeroomId,
    }),
    'people.leave': () => ({
      students: [{ studentId: o.studentId, seen: 0 }],
      lastDay: '2020-01-01',
      reason: 'x',
    }),
    'people.saveGuardian': () => ({
      studentId: o.studentId,
      guardianId: o.roundId,
      seen: 1,
      seenRelation: 1,
      givenName: 'A',
      familyName: 'B',
      relation: 'aunt',
      language: 'en',
      contactOrder: 1,
      mayReceiveReports: false,
    }),
    'people.removeGuardian': () => ({ studentId: o.studentId, guardianId: o.roundId, seen: 1 }),
    'people.enrol': () => ({
      givenName: 'A',
      familyName: 'B',
      birthDate: '2099-01-01',
      yearGroupId: o.roundId,
      homeroomId: o.homeroomId,
      classIds: [],
      startDate: '2026-11-23',
      guardian: { givenName: 'C', familyName: 'D', relation: 'mother' },
    }),
    'account.setOwnPassword': () => ({ password: 'short' }),
    'account.endOwnSession': () => ({ sessionId: 'none' }),
    'attendance.register': () => mark(o),
    'attendance.setMarks': () => ({
      ...mark(o),
      cells: [
        { key: { studentId: o.studentId }, value: { codeId: null, minutesLate: null, note: null }, seen: 0 },
      ],
    }),
    'attendance.markRest': () => ({ ...mark(o), codeId: o.roundId }),
    'assessment.create': () => ({
      name: 'x',
      classIds: [foreign.classId],
      givenOn: '2026-11-23',
      questions: 1,
      choices: 4,
      points: '1',
    }),
    'assessment.key': () => ({ assessmentId: o.assessmentId }),
    'assessment.answers': () => ({ assessmentId: o.assessmentId }),
    'assessment.findings': () => ({ assessmentId: o.assessmentId }),
    'assessment.setDocument': () => ({ assessmentId: o.assessmentId, documentId: o.roundId, seen: 999 }),
    'assessment.setQuestions': () => ({
      assessmentId: o.assessmentId,
      seen: 999,
      questions: [{ id: randomUUID(), key: 'A', choices: 4, points: '1', standardId: null, page: null }],
    }),
    'assessment.setThresholds': () => ({
      assessmentId: o.assessmentId,
      seen: 999,
      secureFrom: '80',
      nearlyFrom: '60',
    }),
    'assessment.setAnswers': () => ({
      assessmentId: o.assessmentId,
      cells: [{ key: { studentId: o.studentId }, value: null, seen: 0 }],
    }),
    'marks.gradebook': () => ({ classId: o.classId, date: '2026-11-23' }),
    'marks.classes': () => ({ date: '2026-11-23' }),
    'marks.scoreHistory': () => ({
      classId: o.classId,
      assignmentId: o.assignmentId,
      studentId: o.studentId,
    }),
    'marks.setScores': () => ({
      classId: o.classId,
      cells: [{ key: { assignmentId: o.assignmentId, studentId: o.studentId }, value: null, seen: 999 }],
    }),
    'marks.saveSettings': () => ({
      classId: o.classId,
      termId: o.termId,
      seen: 999,
      decimals: 1,
      emptyCounts: 'nothing',
      missingCounts: 'zero',
      categories: [{ name: 'a', weight: '1', dropLowest: 0 }],
    }),
    'marks.createAssignment': () => ({
      classId: o.classId,
      name: 'x',
      categoryId: o.roundId,
      maxPoints: '10',
      dueOn: '2026-11-23',
      counts: true,
    }),
    'marks.saveAssignment': () => ({
      classId: o.classId,
      name: 'x',
      categoryId: o.roundId,
      maxPoints: '10',
      dueOn: '2026-11-23',
      counts: true,
      assignmentId: o.roundId,
      seen: 999,
    }),
    'marks.removeAssignment': () => ({ classId: o.classId, assignmentId: o.roundId, seen: 999 }),
    'marks.linkAssessment': () => ({ classId: o.classId, assessmentId: o.roundId, categoryId: o.categoryId }),
    'reports.round': () => ({ roundId: o.roundId }),
    'reports.classEntries': () => classEntries(o),
    'reports.setEntries': () => ({
      ...classEntries(o),
      cells: [
        { key: { studentId: o.studentId }, value: { effort: null, comment: 'x'.repeat(5000) }, seen: 0 },
      ],
    }),
    'reports.fillBlank': () => ({ ...classEntries(o), field: 'effort', value: 'none' }),
    'reports.handIn': () => ({ ...classEntries(o), seen: 999, withBlanks: false }),
    'reports.takeBack': () => ({ ...classEntries(o), seen: 999 }),
    'reports.check': () => ({ ...classEntries(o), seen: 999 }),
    'reports.sendBack': () => ({ ...classEntries(o), seen: 999, remark: 'x' }),
    'reports.cardPreview': () => ({ roundId: o.roundId, homeroomId: o.homeroomId, studentId: o.studentId }),
    'reports.cardList': () => ({ roundId: o.roundId, homeroomId: o.homeroomId }),
    'reports.askForCards': () => ({ roundId: o.roundId, homeroomId: o.homeroomId }),
    'reports.cardsToPrint': () => ({ roundId: o.roundId, homeroomId: o.homeroomId }),
    'reports.keepPrint': () => ({
      roundId: o.roundId,
      homeroomId: o.homeroomId,
      jobId: crypto.randomUUID(),
      name: 'x',
      bytes: Buffer.from('x'),
      pageCount: 1,
    }),
    'reports.askForRelease': () => ({ roundId: o.roundId }),
    'reports.cardsToRelease': () => ({ roundId: o.roundId }),
    'reports.cardToRelease': () => ({ roundId: o.roundId, studentId: o.studentId }),
    'reports.keepIssue': () => ({
      roundId: o.roundId,
      studentId: o.studentId,
      card: {},
      bytes: Buffer.from('x'),
      pageCount: 1,
    }),
    'reports.finishRelease': () => ({ roundId: o.roundId, checkedBefore: '2020-01-01T00:00:00Z' }),
    'files.describe': () => ({ documentId: o.documentId }),
    'files.readPart': () => ({ documentId: o.documentId, from: 0, most: 1 }),
    'files.upload': () => ({ name: 'x.pdf', bytes: Buffer.from('no'), pageCount: 1 }),
    'mail.sendAgain': () => ({ mailId: o.mailId }),
    'history.undo': () => ({ run: isOwn ? runOf[role] : runOf[role === 'head' ? 'office' : 'head'] }),
    'history.ofStudent': () => ({ studentId: o.studentId }),
    'work.begin': () => ({
      command: 'history.undo',
      input: { run: isOwn ? runOf[role] : runOf[role === 'head' ? 'office' : 'head'] },
      preview: true,
    }),
    'work.result': () => ({ jobId: isOwn ? jobOf[role] : jobOf[role === 'head' ? 'office' : 'head'] }),
    'work.cancel': () => ({ jobId: isOwn ? jobOf[role] : jobOf[role === 'head' ? 'office' : 'head'] }),
    'work.retry': () => ({ jobId: isOwn ? jobOf[role] : jobOf[role === 'head' ? 'office' : 'head'] }),
    'work.dismiss': () => ({ jobId: isOwn ? jobOf[role] : jobOf[role === 'head' ? 'office' : 'head'] }),
    'work.noteFetched': () => ({ documentId: o.documentId }),
    'year.create': () => ({ name: '', firstDay: '', lastDay: '', weekdays: [1], terms: [] }),
    'year.addYearGroups': () => ({ yearId: o.roundId, names: ['x'], homerooms: [] }),
  }
  return inputs[name]?.() ?? {}
}
