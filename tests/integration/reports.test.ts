import { spawn, type ChildProcess } from 'node:child_process'
import { createServer } from 'node:net'
import type { Actor } from '@/server/platform/actor'
import type { QueryOutput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'
import { setEntry, moveEntries } from './acts'

let school: TestSchool
let teacher: Actor
let head: Actor
let roundId: string
let science: string
let english: string
let homeroomId: string
let worker: ChildProcess | undefined

beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  head = await school.actor('s.kirkness')
  const one = async (statement: string) => (await school.row(statement)).id as string
  roundId = await one('select id from report_round')
  science = await one("select id from class where name = '7 Science A'")
  english = await one("select id from class where name = '7 English A'")
  homeroomId = await one("select id from homeroom where name = '7 Tern'")
})
afterAll(async () => {
  await stopWorker('SIGTERM')
  await school.close()
})

async function startWorker() {
  const port = await new Promise<number>((resolve) => {
    const probe = createServer()
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address()
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0))
    })
  })
  worker = spawn(
    process.execPath,
    ['--import', 'tsx', 'src/terminal/kedge.ts', 'worker', '--mailbox', String(port)],
    {
      env: {
        ...process.env,
        SMTP_URL: `smtp://127.0.0.1:${port}?ignoreTLS=true`,
        NODE_OPTIONS: '',
        LOG_LEVEL: 'info',
        KEDGE_LOG: undefined,
      },
      stdio: ['ignore', 'inherit', 'pipe'],
    },
  )
  await new Promise<void>((resolve, reject) => {
    worker?.stderr?.on('data', (chunk: Buffer) => {
      const lines = chunk.toString()
      if (lines.includes('"event":"ready"')) resolve()
      if (/"level":"(error|fatal)"/.test(lines)) process.stderr.write(lines)
    })
    worker?.once('exit', (code) => reject(new Error(`the worker ended with ${code}`)))
  })
}
async function stopWorker(signal: NodeJS.Signals) {
  if (!worker || worker.exitCode !== null || worker.signalCode !== null) return
  const gone = new Promise((resolve) => worker?.once('exit', resolve))
  worker.kill(signal)
  await gone
}
async function until<T>(look: () => Promise<T | undefined>, what: string): Promise<T> {
  for (let n = 0; n < 600; n++) {
    const found = await look()
    if (found !== undefined) return found
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error(`${what} did not happen in 30 seconds`)
}
const jobEnded = (jobId: string) =>
  until(async () => {
    const job = await school.row('select * from job where id = $1', [jobId])
    return ['done', 'failed', 'cancelled'].includes(job.state) ? job : undefined
  }, 'the end of the work')

const entries = async (classId = science, actor = teacher) =>
  good(await school.query('reports.classEntries', actor, { roundId, classId }))
const stateOf = async (classId: string) =>
  (await school.row('select state, remark from class_entries where class_id = $1 and round_id = $2', [
    classId,
    roundId,
  ])) as { state: string; remark: string | null }
const both = () => ({ roundId, classId: science })
const markOf = (row: QueryOutput<'reports.classEntries'>['rows'][number] | undefined) => row?.values[0]?.mark

describe('writing', () => {
  test('marks and grades are fed from the gradebook', async () => {
    const { rows } = await entries()
    expect(rows.filter((r) => markOf(r) !== undefined).length).toBeGreaterThan(20)
    expect(rows.every((r) => r.effort === null && r.comment === '')).toBe(true)
  })
  test('an entry is saved as typed, two people are shown both versions, a long comment is refused', async () => {
    const { rows } = await entries()
    const studentId = rows[0]?.studentId ?? ''
    const save = (comment: string, expectedVersion: number) =>
      setEntry(school, teacher, {
        ...both(),
        studentId,
        effort: 'good',
        comment,
        expectedVersion,
      })
    const [first] = good(await save('Works well.', 0))
    expect(bad(await save('Other words.', 0))).toMatchObject({
      kind: 'conflict',
      standing: [{ key: { studentId }, value: { comment: 'Works well.' }, version: first?.version }],
    })
    expect(bad(await save('x'.repeat(401), first?.version ?? 0)).message).toMatch(
      /401 characters; the card has room for 400. Shorten it by 1./,
    )
    expect((await entries()).rows[0]?.comment).toBe('Works well.')
  })
  test('one value for all who have none leaves the others alone, and can be taken back', async () => {
    const stroke = await school.execute('reports.fillBlank', teacher, {
      ...both(),
      field: 'comment',
      value: 'A good term.',
    })
    const filled = good(stroke)
    const { rows } = await entries()
    expect(filled).toHaveLength(rows.length - 1)
    expect(rows[0]?.comment).toBe('Works well.')
    const undone = good(
      await school.execute('history.undo', teacher, { run: (stroke.ok && stroke.run) || '' }),
    )
    expect([undone.restored.length, undone.left]).toEqual([filled.length, 0])
    expect((await entries()).rows.filter((r) => r.comment)).toHaveLength(1)
    good(
      await school.execute('reports.fillBlank', teacher, {
        ...both(),
        field: 'comment',
        value: 'A good term.',
      }),
    )
    expect(
      bad(await school.execute('reports.fillBlank', teacher, { ...both(), field: 'effort', value: 'superb' }))
        .message,
    ).toContain('Effort is one of')
  })
})

describe('handing in and checking', () => {
  test('blanks are pointed out first, by name', async () => {
    const failure = bad(
      await school.execute('reports.handIn', teacher, { ...both(), expectedVersion: 1, withBlanks: false }),
    )
    expect(failure.message).toMatch(/Still blank: .*\(effort\)/)
    expect((await stateOf(science)).state).toBe('writing')
  })
  test('what is handed in keeps its mark; a later change of the gradebook shows as a difference', async () => {
    good(await school.execute('reports.fillBlank', teacher, { ...both(), field: 'effort', value: 'good' }))
    good(await moveEntries(school, teacher, 'handIn', { ...both() }))
    const before = (await entries()).rows.find((r) => markOf(r) !== undefined)
    const assignment = await school.row(
      'select id, max_points from assignment where class_id = $1 order by due_on limit 1',
      [science],
    )
    const score = await school.row('select version from score where assignment_id = $1 and student_id = $2', [
      assignment.id,
      before?.studentId,
    ])
    good(
      await school.execute('marks.setScores', teacher, {
        classId: science,
        cells: [
          {
            key: { assignmentId: assignment.id, studentId: before?.studentId ?? '' },
            value: { kind: 'points', points: '1' },
            expectedVersion: score.version,
          },
        ],
      }),
    )
    const after = (await entries()).rows.find((r) => r.studentId === before?.studentId)
    expect(markOf(after)).toBe(markOf(before))
    expect(Number(after?.values[0]?.now)).toBeLessThan(Number(markOf(before)))
  })
  test('nothing can be written after handing in; one can take it back until it is checked', async () => {
    const { rows } = await entries()
    const save = () =>
      setEntry(school, teacher, {
        ...both(),
        studentId: rows[0]?.studentId ?? '',
        effort: 'low',
        comment: '',
        expectedVersion: rows[0]?.version ?? 0,
      })
    expect(bad(await save()).message).toContain(
      'handed in and can no longer be changed. Take them back first.',
    )
    good(await moveEntries(school, teacher, 'takeBack', both()))
    expect((await stateOf(science)).state).toBe('writing')
    good(await moveEntries(school, teacher, 'handIn', { ...both() }))
  })
  test('the head sends one back with a remark and checks the other; a second click is told how it stands', async () => {
    expect(
      bad(await moveEntries(school, head, 'sendBack', { roundId, classId: english, remark: '  ' })).message,
    ).toContain('Enter a remark')
    good(
      await moveEntries(school, head, 'sendBack', {
        roundId,
        classId: english,
        remark: 'Please name the books read.',
      }),
    )
    expect(await stateOf(english)).toEqual({ state: 'sent back', remark: 'Please name the books read.' })
    const [a, b] = await Promise.all([
      moveEntries(school, head, 'check', both()),
      moveEntries(school, head, 'check', both()),
    ])
    expect([a.ok, b.ok].sort()).toEqual([false, true])
    expect(bad(a.ok ? b : a).kind).toBe('conflict')
    expect(bad(await moveEntries(school, teacher, 'takeBack', both()))).toMatchObject({
      code: 'reports.state',
      about: { state: 'checked' },
    })
  })
})

describe('cards', () => {
  test('preview is not final until everything is checked, and carries attendance from the registers', async () => {
    const student = await school.row("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
    const [card] = good(
      await school.query('reports.cardPreview', teacher, { roundId, homeroomId, studentId: student.id }),
    )
    expect(card).toMatchObject({
      final: false,
      term: 'Autumn',
      student: { name: 'Ilse Okonjo-Marsh', homeroom: '7 Tern' },
    })
    expect(card?.lines.find((l) => l.subject === 'Science')).toMatchObject({ checked: true, effort: 'good' })
    const marks = await school.row(
      "select count(*)::int as n from attendance_mark m join attendance_code c on c.id = m.code_id where m.student_id = $1 and m.homeroom_id is not null and c.meaning <> 'not expected'",
      [student.id],
    )
    expect(card?.attendance.possible).toBe(marks.n)
  })
  test('release is refused while nothing is checked', async () => {
    await school.rows("update class_entries set state = 'handed in' where class_id = $1", [science])
    expect(bad(await school.execute('reports.askForRelease', head, { roundId })).message).toContain(
      'No class entries have been checked',
    )
    await school.rows("update class_entries set state = 'checked' where class_id = $1", [science])
  })
  test('a worker killed in the middle of a release is followed by another; nobody gets two cards or two mails', async () => {
    const { jobId } = good(await school.execute('reports.askForRelease', head, { roundId }))
    await startWorker()
    await until(
      async () =>
        (await school.row('select done from job where id = $1', [jobId])).done >= 3 ? true : undefined,
      'the first cards',
    )
    await stopWorker('SIGKILL')
    const halfway = await school.row('select state, done, total from job where id = $1', [jobId])
    expect(halfway.state).toBe('running')
    await startWorker()
    const job = await jobEnded(jobId)
    expect(job).toMatchObject({ state: 'done', done: job.total })
    expect(job.attempts).toBe(2)
    const members = await school.row(
      'select count(*)::int as n from class_member where class_id = $1 and upper(period) is null',
      [science],
    )
    const cards = await school.row(
      'select count(*)::int as n, count(distinct student_id)::int as students, max(issue) as issue from report_card',
    )
    expect(cards).toEqual({ n: members.n, students: members.n, issue: 1 })
    const wanted = await school.row(
      `select count(*)::int as n from guardianship gs join guardian g on g.id = gs.guardian_id join report_card c on c.student_id = gs.student_id where gs.may_receive_reports and g.email is not null`,
    )
    await until(
      async () =>
        (await school.row("select count(*)::int as n from mail where state <> 'sent'")).n === 0
          ? true
          : undefined,
      'all mails to be sent',
    )
    expect((await school.row('select count(*)::int as n from stand_in.mailbox')).n).toBe(wanted.n)
    expect((await stateOf(science)).state).toBe('released')
  })
  test('the guardian finds the released card, with what is to follow named, and nothing else', async () => {
    const guardian = await school.actor('hana.marsh@islandmail.example')
    const cards = good(await school.query('reports.myCards', guardian, {}))
    expect(cards).toMatchObject([{ sortName: 'Okonjo-Marsh, Ilse', issue: 1 }])
    expect(cards[0]?.leftOut).toContain('English')
    const { openFile } = await import('@/server/front/open-file')
    const file = good(await openFile(guardian, cards[0]?.documentId ?? ''))
    const bytes = Buffer.from(await new Response(file.stream).arrayBuffer())
    expect([bytes.subarray(0, 5).toString(), bytes.length]).toEqual(['%PDF-', file.size])
    const other = await school.row(
      'select document_id from report_card c join student s on s.id = c.student_id where s.sort_name <> $1 limit 1',
      ['Okonjo-Marsh, Ilse'],
    )
    expect(bad(await school.query('files.describe', guardian, { documentId: other.documentId })).kind).toBe(
      'not found',
    )
    const admin = await school.actor('m.vester')
    const received = good(await school.query('mail.received', admin, {}))
    expect(received.find((m) => m.recipient.includes('hana.marsh'))?.subject).toBe(
      'Wrackline School: report card of Ilse Okonjo-Marsh, Autumn term',
    )
  })
  test('releasing again without anything new is refused; with something new it makes a second issue and keeps the first', async () => {
    expect(bad(await school.execute('reports.askForRelease', head, { roundId })).message).toContain(
      'No class entries have been checked',
    )
    const writer = await school.row(
      'select u.username from class_teacher t join membership m on m.person_id = t.staff_id join auth."user" u on u.id = m.account_id where t.class_id = $1',
      [english],
    )
    const englishTeacher = await school.actor(writer.username)
    good(await moveEntries(school, englishTeacher, 'handIn', { roundId, classId: english }))
    good(await moveEntries(school, head, 'check', { roundId, classId: english }))
    const { jobId } = good(await school.execute('reports.askForRelease', head, { roundId }))
    expect((await jobEnded(jobId)).state).toBe('done')
    const guardian = await school.actor('hana.marsh@islandmail.example')
    const cards = good(await school.query('reports.myCards', guardian, {}))
    expect(cards.map((c) => [c.issue, c.replacedAt !== null])).toEqual([
      [2, false],
      [1, true],
    ])
  })
  test('a homeroom’s cards are printed once, however often the work is taken up, and can be stopped', async () => {
    const { jobId } = good(await school.execute('reports.askForCards', teacher, { roundId, homeroomId }))
    const job = await jobEnded(jobId)
    expect(job).toMatchObject({ state: 'done', documentId: jobId })
    expect(job.message).toMatch(/^28 cards on \d+ pages$/)
    await stopWorker('SIGTERM')
    const second = good(await school.execute('reports.askForCards', teacher, { roundId, homeroomId }))
    good(await school.execute('work.cancel', teacher, { jobId: second.jobId }))
    expect((await school.row('select state from job where id = $1', [second.jobId])).state).toBe('cancelled')
    await startWorker()
    good(await school.execute('work.retry', teacher, { jobId: second.jobId }))
    expect((await jobEnded(second.jobId)).state).toBe('done')
    expect(
      (
        await school.row('select count(*)::int as n from document where id = any($1::uuid[])', [
          [jobId, second.jobId],
        ])
      ).n,
    ).toBe(2)
  })
  test('a print is not read any more by whoever lost the right to it', async () => {
    const { openFile } = await import('@/server/front/open-file')
    const { jobId } = good(await school.execute('reports.askForCards', teacher, { roundId, homeroomId }))
    await jobEnded(jobId)
    expect((await openFile(teacher, jobId)).ok).toBe(true)
    expect((await openFile(head, jobId)).ok).toBe(false)
    const held = await school.row(
      'delete from homeroom_teacher where homeroom_id = $1 and staff_id = $2 returning *',
      [homeroomId, teacher.staffId],
    )
    expect(await openFile(teacher, jobId)).toMatchObject({ failure: { kind: 'not found' } })
    await school.rows(
      'insert into homeroom_teacher (school_id, homeroom_id, staff_id, period) values ($1, $2, $3, $4)',
      [held.schoolId, homeroomId, teacher.staffId, held.period],
    )
    expect((await openFile(teacher, jobId)).ok).toBe(true)
  })
  test('work stands in the head until its result was fetched whole or it was dismissed', async () => {
    const shown = async () =>
      good(await school.query('work.list', teacher, {})).filter((one) => one.dismissedAt === null)
    const { jobId } = good(await school.execute('reports.askForCards', teacher, { roundId, homeroomId }))
    expect(await school.execute('work.dismiss', teacher, { jobId })).toMatchObject({
      failure: { code: 'work.notEnded' },
    })
    await jobEnded(jobId)
    expect((await shown()).map((one) => one.id)).toContain(jobId)
    const { openFile } = await import('@/server/front/open-file')
    const file = await openFile(teacher, jobId)
    if (!file.ok) throw new Error(file.failure.message)
    const reader = file.value.stream.getReader()
    // Half of it is not all of it.
    expect((await reader.read()).done).toBe(false)
    for (let part = await reader.read(); !part.done;) part = await reader.read()
    expect((await shown()).map((one) => one.id)).not.toContain(jobId)
    // Whoever else reads the file does not take it out of somebody's head.
    await school.rows('update job set dismissed_at = null where id = $1', [jobId])
    good(await school.execute('work.noteFetched', head, { documentId: jobId }))
    expect((await shown()).map((one) => one.id)).toContain(jobId)
    good(await school.execute('work.dismiss', teacher, { jobId }))
    good(await school.execute('work.dismiss', teacher, { jobId }))
    expect((await shown()).map((one) => one.id)).not.toContain(jobId)
    expect(good(await school.query('work.list', teacher, {})).map((one) => one.id)).toContain(jobId)
  })
  test('the student’s history tells the whole way', async () => {
    const student = await school.row("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
    const { changes } = good(await school.query('history.ofStudent', head, { studentId: student.id }))
    const kinds = new Set(changes.map((c) => c.kind))
    for (const kind of ['Report entry', 'Report card', 'Mail']) expect(kinds).toContain(kind)
  })
})
