import type { Actor, Role } from '@/server/platform/actor'
import { allEntries } from '../domains/all'
import type { Entry, Objects } from '../domains/entry'
import { openSchool, type TestSchool } from './school'

// What walks over the whole registry need: a school, somebody of every role, and an input for every entry.

export let school: TestSchool
export const actors = {} as Record<Role, Actor>
export let stranger: Actor
export let own: Record<string, string>
export let foreign: Record<string, string>
/** What is known of every entry of the registry. */
export let entries: ReadonlyMap<string, Entry>
let jobOf: Record<string, string>
let runOf: Record<string, string>

/** Opens the school of a walk, with somebody of every role, and objects that are the teacher's own and foreign ones. */
export async function openWalk(): Promise<void> {
  entries = await allEntries()
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
  const assessment = await school.row(
    "select id, school_id, subject_id from assessment where name = 'Fair tests'",
  )
  const mathematics = await school.row("select id from subject where name = 'Mathematics'")
  const other = await school.row('select t.staff_id from class_teacher t where t.class_id = $1', [
    foreign.classId,
  ])
  const made = '00000000-0000-7000-8000-0000000000ff'
  await school.rows(
    'insert into assessment (school_id, id, name, subject_id, owner_id) values ($1, $2, $3, $4, $5)',
    [assessment.schoolId, made, 'Angles', mathematics.id, other.staffId],
  )
  for (const statement of [
    'insert into form (school_id, assessment_id, id) values ($1, $2, $2)',
    "insert into sitting (school_id, assessment_id, id, form_id, given_on, given_by) select $1, $2, $2, $2, '2026-11-20', owner_id from assessment where id = $2",
    "insert into key_version (school_id, assessment_id, number, made_by) values ($1, $2, 1, 'Hana Tulloch')",
    "insert into question (school_id, assessment_id, id, position, kind) values ($1, $2, $2, 1, 'one choice')",
    `insert into question_key (school_id, assessment_id, question_id, from_version, content, points)
      values ($1, $2, $2, 1, '{"choices": ["A", "B", "C", "D"], "right": "A"}', 1)`,
    "insert into assessment_level (school_id, assessment_id, position, name, from_percent) values ($1, $2, 1, 'secure', 80)",
    "insert into assessment_level (school_id, assessment_id, position, name) values ($1, $2, 2, 'not yet')",
  ])
    await school.rows(statement, [assessment.schoolId, made])
  await school.rows(
    'insert into sitting_class (school_id, assessment_id, sitting_id, class_id) values ($1, $2, $2, $3)',
    [assessment.schoolId, made, foreign.classId],
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
  await school.rows(
    'insert into form_document (school_id, assessment_id, form_id, document_id) select school_id, assessment_id, id, $1 from form',
    [document.id],
  )
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

/** An input for an entry, for one's own objects or foreign ones. What is tested is the right, not what then happens. */
export function inputFor(name: string, o: Objects, role: Role, isOwn: boolean): object {
  const of = isOwn ? role : role === 'head' ? 'office' : 'head'
  const as = { role, isOwn, foreign, runId: runOf[of] ?? '', jobId: jobOf[of] ?? '' }
  return entries.get(name)?.input?.(o, as) ?? {}
}
