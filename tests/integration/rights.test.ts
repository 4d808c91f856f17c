import type { Actor, Role } from '@/server/platform/actor'
import { commands, queries } from '@/server/registry'
import { actors, foreign, inputFor, openWalk, own, school, stranger } from './walk'

/** Where a role may: with every object of the school, only with its own, or nowhere. */
type May = 'all' | 'own' | 'none'
type Row = Readonly<Record<Exclude<Role, 'student'>, May>> & { readonly student?: May }

const nobody: Row = {
  administrator: 'none',
  head: 'none',
  office: 'none',
  records: 'none',
  teacher: 'none',
  guardian: 'none',
}
const row = (may: Partial<Record<Role, May>>): Row => ({ ...nobody, ...may })
const everyone = row({
  administrator: 'all',
  head: 'all',
  office: 'all',
  records: 'all',
  teacher: 'all',
  guardian: 'all',
  student: 'all',
})
const staff = row({ administrator: 'all', head: 'all', office: 'all', records: 'all', teacher: 'all' })
const office = row({ administrator: 'all', head: 'all', office: 'all', records: 'all' })
const admin = row({ administrator: 'all' })
const lead = row({ administrator: 'all', head: 'all' })
const teacherOwn = row({ teacher: 'own' })
const teacherOwnAndLead = row({ administrator: 'all', head: 'all', teacher: 'own' })
const teacherOwnAndOffice = row({
  administrator: 'all',
  head: 'all',
  office: 'all',
  records: 'all',
  teacher: 'own',
})
const printers = row({ administrator: 'all', head: 'all', office: 'all', teacher: 'own' })

/** Who may do what. Every entry of the registry has its line here; a new one without a line fails the test below. */
const who: Readonly<Record<string, Row>> = {
  'shell.frame': everyone,
  'year.calendar': staff,
  'year.classesAndParts': staff,
  'year.touchedBy': admin,
  'year.setUp': admin,
  'year.addSubjects': admin,
  'year.saveClass': admin,
  'year.scales': staff,
  'year.settings': row({ administrator: 'all', head: 'all', office: 'all' }),
  'year.saveSettings': admin,
  'people.classMembers': row({
    administrator: 'all',
    head: 'all',
    office: 'all',
    records: 'all',
    teacher: 'own',
  }),
  'people.recipients': row({ administrator: 'all', head: 'all', office: 'all' }),
  'people.writeMessage': row({ administrator: 'all', head: 'all', office: 'all' }),
  'record.short': staff,
  'record.merge': row({ administrator: 'all', office: 'all' }),
  'people.setPhoto': office,
  'people.removePhoto': office,
  'year.addRooms': admin,
  'year.saveHomeroom': admin,
  'year.closeHomeroom': admin,
  'year.saveScale': admin,
  'year.removeScale': admin,
  'year.saveClosure': admin,
  'year.removeClosure': admin,
  'year.renamePart': admin,
  'year.removePart': admin,
  'year.orderParts': admin,
  'year.feed': staff,
  'year.setFeed': staff,
  'year.carryPlan': admin,
  'year.carryForward': admin,
  'year.setUpCheck': row({ administrator: 'all', head: 'all', office: 'all' }),
  'year.enrolledIn': row({ administrator: 'all', head: 'all', office: 'all' }),
  'year.saveTerm': admin,
  'year.savePeriod': admin,
  'year.removePeriod': admin,
  'year.removeTerm': admin,
  'year.setTermOpen': admin,
  'year.saveYear': admin,
  'today.due': staff,
  'attendance.registersOfDay': staff,
  'attendance.codeSets': staff,
  'attendance.correctable': office,
  'attendance.planned': office,
  'attendance.callList': office,
  'attendance.noteCall': office,
  'attendance.savePlanned': office,
  'attendance.removePlanned': office,
  'attendance.endPlanned': teacherOwnAndOffice,
  'attendance.correct': office,
  'attendance.lessonRegister': staff,
  'attendance.setLessonMarks': staff,
  'attendance.markLessonRest': staff,
  'attendance.endPlannedInLesson': teacherOwnAndOffice,
  'attendance.lessonsOfDay': staff,
  'attendance.ownLessons': staff,
  'attendance.unusual': staff,
  'attendance.figures': row({
    administrator: 'all',
    head: 'all',
    office: 'all',
    records: 'all',
    teacher: 'own',
  }),
  'attendance.sessionsBehind': row({
    administrator: 'all',
    head: 'all',
    office: 'all',
    records: 'all',
    teacher: 'own',
  }),
  'attendance.certificate': row({
    administrator: 'all',
    head: 'all',
    office: 'all',
    records: 'all',
    teacher: 'own',
  }),
  'attendance.figureChoices': staff,
  'attendance.inBuilding': office,
  'attendance.keptMarks': office,
  'attendance.sheets': staff,
  'attendance.remind': office,
  'attendance.letters': row({ administrator: 'all', head: 'all', office: 'all' }),
  'attendance.lettersToSend': row({ administrator: 'all', head: 'all', office: 'all' }),
  'attendance.saveLetterTemplate': row({ administrator: 'all', head: 'all', office: 'all' }),
  'attendance.removeLetterTemplate': row({ administrator: 'all', head: 'all', office: 'all' }),
  'attendance.sendLetters': row({ administrator: 'all', head: 'all', office: 'all' }),
  'attendance.ownReports': row({ guardian: 'all' }),
  'attendance.reportAbsence': row({ guardian: 'own' }),
  'attendance.withdrawReport': row({ guardian: 'all' }),
  'attendance.declineReport': office,
  'year.setRegisters': admin,
  'timetable.shown': staff,
  'timetable.saveTimetable': row({ administrator: 'all', office: 'all' }),
  'timetable.removeTimetable': row({ administrator: 'all', office: 'all' }),
  'timetable.setLesson': row({ administrator: 'all', office: 'all' }),
  'timetable.replaceLessons': row({ administrator: 'all', office: 'all' }),
  'timetable.changeLesson': office,
  'attendance.saveCodeSet': admin,
  'attendance.removeCodeSet': admin,
  'people.list': staff,
  'people.student': staff,
  'find.anything': staff,
  'people.groups': row({ administrator: 'all', head: 'all', office: 'all' }),
  'people.addGroups': row({ administrator: 'all', office: 'all' }),
  'people.saveGroup': row({ administrator: 'all', office: 'all' }),
  'people.removeGroup': row({ administrator: 'all', office: 'all' }),
  'people.guardians': office,
  'people.possibleDuplicates': office,
  'people.enrolForm': office,
  'people.applicantGuardians': office,
  'people.enrol': office,
  'staff.list': row({ administrator: 'all', head: 'all', office: 'all' }),
  'staff.member': row({ administrator: 'all', head: 'all', office: 'all' }),
  'staff.create': admin,
  'staff.ownAddress': staff,
  'staff.shareAddress': staff,
  'staff.sessions': admin,
  'staff.endSession': admin,
  'staff.ofChildren': row({ guardian: 'all' }),
  'staff.setMember': admin,
  'staff.setRoles': admin,
  'staff.resetPassword': admin,
  'staff.deactivate': admin,
  'staff.reactivate': admin,
  'staff.mailSignIn': admin,
  'people.inviteAgain': office,
  'people.endGuardianAccess': office,
  'people.setStudent': office,
  'people.place': office,
  'people.leave': office,
  'people.saveGuardian': office,
  'people.removeGuardian': office,
  'account.setOwnPassword': everyone,
  'account.sessions': everyone,
  'account.endOwnSession': everyone,
  'account.address': everyone,
  'account.confirmOwnAddress': everyone,
  'account.signOutEverywhere': everyone,
  'attendance.register': staff,
  'attendance.setMarks': staff,
  'attendance.markRest': staff,
  'assessment.list': row({ administrator: 'all', head: 'all', teacher: 'all' }),
  'assessment.newForm': row({ teacher: 'all' }),
  'assessment.create': row({ teacher: 'all' }),
  'assessment.key': teacherOwnAndLead,
  'assessment.answers': teacherOwnAndLead,
  'assessment.findings': teacherOwnAndLead,
  'assessment.setDocument': teacherOwn,
  'assessment.setQuestions': teacherOwn,
  'assessment.setThresholds': teacherOwn,
  'assessment.setAnswers': teacherOwn,
  'marks.gradebook': teacherOwnAndLead,
  'marks.scoreHistory': teacherOwnAndLead,
  'marks.classes': staff,
  'marks.setScores': teacherOwn,
  'marks.saveSettings': teacherOwn,
  'marks.createAssignment': teacherOwn,
  'marks.saveAssignment': teacherOwn,
  'marks.removeAssignment': teacherOwn,
  'marks.linkAssessment': teacherOwn,
  'reports.rounds': row({ administrator: 'all', head: 'all', office: 'all', teacher: 'all' }),
  'reports.round': row({ administrator: 'all', head: 'all', office: 'all', teacher: 'all' }),
  'reports.classEntries': teacherOwnAndLead,
  'reports.setEntries': teacherOwn,
  'reports.fillBlank': teacherOwn,
  'reports.handIn': teacherOwn,
  'reports.takeBack': teacherOwn,
  'reports.check': lead,
  'reports.sendBack': lead,
  'reports.cardPreview': printers,
  'reports.cardList': printers,
  'reports.askForCards': printers,
  'reports.cardsToPrint': printers,
  'reports.keepPrint': printers,
  'reports.askForRelease': lead,
  'reports.cardsToRelease': lead,
  'reports.cardToRelease': lead,
  'reports.keepIssue': lead,
  'reports.finishRelease': lead,
  'reports.myCards': row({ guardian: 'all' }),
  'files.describe': row({ administrator: 'all', head: 'all', teacher: 'all' }),
  'files.readPart': row({ administrator: 'all', head: 'all', teacher: 'all' }),
  'files.upload': row({ administrator: 'all', head: 'all', teacher: 'all' }),
  'history.ofStudent': row({ administrator: 'all', head: 'all', office: 'all' }),
  'work.list': staff,
  'work.begin': row({ administrator: 'all', head: 'own', office: 'own', records: 'own', teacher: 'own' }),
  'work.result': row({ administrator: 'own', head: 'own', office: 'own', records: 'own', teacher: 'own' }),
  'work.cancel': row({
    administrator: 'own',
    head: 'own',
    office: 'own',
    records: 'own',
    teacher: 'own',
    guardian: 'own',
    student: 'own',
  }),
  'work.retry': row({
    administrator: 'own',
    head: 'own',
    office: 'own',
    records: 'own',
    teacher: 'own',
    guardian: 'own',
    student: 'own',
  }),
  'work.dismiss': row({
    administrator: 'own',
    head: 'own',
    office: 'own',
    records: 'own',
    teacher: 'own',
    guardian: 'own',
    student: 'own',
  }),
  'work.noteFetched': everyone,
  'mail.received': row({ administrator: 'all' }),
  'mail.notSent': row({ administrator: 'all' }),
  'mail.sendAgain': row({ administrator: 'all' }),
  'history.undo': row({ administrator: 'all', head: 'own', office: 'own', records: 'own', teacher: 'own' }),
  'year.create': row({ administrator: 'all' }),
  'year.addYearGroups': row({ administrator: 'all' }),
}

beforeAll(openWalk)
afterAll(() => school.close())

const entries = [...queries, ...commands].map(([name, { kind }]) => ({ kind, name }))

/** The answer "not there" is how a right is refused; any other answer means the right was there. */
async function isRefused(
  entry: { kind: string; name: string },
  actor: Actor,
  input: object,
): Promise<boolean> {
  const result =
    entry.kind === 'query'
      ? await school.ask(entry.name as never, actor, input as never)
      : await school.tell(entry.name as never, actor, input as never)
  if (
    !result.ok &&
    result.failure.kind === 'invalid' &&
    result.failure.fields.some((f) => /Invalid input|expected/.test(f.message))
  )
    throw new Error(`the test's input for ${entry.name} is wrong: ${result.failure.message}`)
  return !result.ok && result.failure.kind === 'not found'
}

test('every entry of the registry has its line in the table, and no line stands for nothing', async () => {
  expect(entries.map((entry) => entry.name).sort()).toEqual(Object.keys(who).sort())
})

describe('every role may exactly what the table says, with own and foreign objects:', () => {
  test.each(entries)('$name', async (entry) => {
    const wrong: string[] = []
    for (const role of Object.keys(actors) as Role[]) {
      const may = who[entry.name]?.[role] ?? 'none'
      for (const isOwn of [true, false]) {
        const expected = may === 'all' || (may === 'own' && isOwn)
        const input = inputFor(entry.name, isOwn ? own : foreign, role, isOwn)
        const allowed = !(await isRefused(entry, actors[role], input))
        if (allowed !== expected)
          wrong.push(
            `${role} ${allowed ? 'may' : 'may not'} ${entry.name} with ${isOwn ? 'own' : 'foreign'} objects`,
          )
      }
    }
    expect(wrong).toEqual([])
  })
})

describe('nobody reaches an object of another school by its id:', () => {
  // These need no object of the school: they answer about the asker's own, empty school, or change only that.
  const aboutOneself = new Set([
    'shell.frame',
    'year.calendar',
    'year.classesAndParts',
    'year.touchedBy',
    'year.setUp',
    'year.addSubjects',
    'year.scales',
    'year.settings',
    'year.saveSettings',
    'people.recipients',
    'people.writeMessage',
    'year.addRooms',
    'year.saveHomeroom',
    'year.closeHomeroom',
    'year.saveScale',
    'year.removeScale',
    'year.removeClosure',
    'year.setUpCheck',
    'year.enrolledIn',
    'year.removeTerm',
    'year.setTermOpen',
    'year.removePeriod',
    'today.due',
    'attendance.registersOfDay',
    'attendance.lessonsOfDay',
    'attendance.ownLessons',
    'attendance.unusual',
    'attendance.figureChoices',
    'attendance.inBuilding',
    'attendance.keptMarks',
    'attendance.sheets',
    'attendance.remind',
    'attendance.letters',
    'attendance.saveLetterTemplate',
    'attendance.removeLetterTemplate',
    'attendance.declineReport',
    'year.setRegisters',
    'timetable.shown',
    'timetable.saveTimetable',
    'timetable.removeTimetable',
    'timetable.changeLesson',
    'attendance.codeSets',
    'attendance.correctable',
    'attendance.callList',
    'attendance.planned',
    'attendance.removePlanned',
    'attendance.saveCodeSet',
    'attendance.removeCodeSet',
    'people.list',
    'find.anything',
    'year.renamePart',
    'year.removePart',
    'year.orderParts',
    'year.feed',
    'year.setFeed',
    'people.groups',
    'people.addGroups',
    'people.saveGroup',
    'people.removeGroup',
    'people.guardians',
    'people.possibleDuplicates',
    'people.enrolForm',
    'people.enrol',
    'account.setOwnPassword',
    'account.sessions',
    'account.endOwnSession',
    'account.address',
    'account.confirmOwnAddress',
    'account.signOutEverywhere',
    'assessment.list',
    'marks.classes',
    'reports.rounds',
    'files.upload',
    'work.list',
    'staff.list',
    'staff.create',
    'staff.ownAddress',
    'staff.shareAddress',
    'work.noteFetched',
    'mail.received',
    'mail.notSent',
    'year.create',
    'year.addYearGroups',
  ])
  test.each(entries.filter((entry) => !aboutOneself.has(entry.name)))('$name', async (entry) => {
    expect(await isRefused(entry, stranger, inputFor(entry.name, own, 'administrator', true))).toBe(true)
  })
})

test('lists of another school are empty', async () => {
  const people = await school.ask('people.list', stranger, { date: '2026-11-23' })
  expect(people).toEqual({ ok: true, value: [] })
  const found = await school.ask('find.anything', stranger, { text: 'ilse' })
  expect(found).toEqual({ ok: true, value: [] })
})

test('a guardian sees the own child’s released cards and no document of anybody else', async () => {
  const rows = await school.rows('select id from document')
  for (const { id } of rows)
    expect((await school.ask('files.describe', actors.guardian, { documentId: id })).ok).toBe(false)
})
