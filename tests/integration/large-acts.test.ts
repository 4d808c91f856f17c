import { limits } from '@/core/limits'
import type { Actor } from '@/server/platform/actor'
import type { Preview } from '@/server/platform/preview'
import type { CommandInput } from '@/server/registry'
import { runJob } from '@/worker/run-job'
import { setMark } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let office: Actor
let input: CommandInput<'attendance.correct'>
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  const students = await school.rows(
    "select student_id from homeroom_member where period @> '2026-11-20'::date order by student_id",
  )
  input = {
    studentIds: students.map((s) => s.studentId),
    firstDay: '2026-11-13',
    lastDay: '2026-11-20',
    sessions: ['morning', 'afternoon'],
    codeId: (await school.row("select id from attendance_code where code = 'W'")).id,
    note: null,
    reason: 'The ferry did not run',
    replace: true,
  }
})
afterAll(() => school.close())

/** All marks of the days around, as one text that is another when any of them is. */
const marks = async () =>
  (
    await school.row(
      `select md5(string_agg(concat_ws(' ', student_id, session_date, session, class_id, code_id, minutes_late, note, reason), ','
         order by student_id, session_date, session, class_id)) as all
       from attendance_mark where session_date between '2026-11-01' and '2026-11-23'`,
    )
  ).all as string
const begin = (
  more: Partial<CommandInput<'work.begin'>>,
  actor = office,
): Promise<Awaited<ReturnType<typeof school.execute<'work.begin'>>>> =>
  school.execute('work.begin', actor, { command: 'attendance.correct', input, preview: false, ...more })
async function worked(more: Partial<CommandInput<'work.begin'>>) {
  const { jobId } = good(await begin(more))
  await runJob({ schoolId: office.schoolId, id: jobId }, { last: true })
  const { result, ...end } = good(await school.query('work.result', office, { jobId }))
  return { ...end, jobId, result: result as { preview?: Preview; value?: unknown; failure?: unknown } }
}

test('what changes thousands of marks is refused to a page that would wait, and previewed, done and undone in the background', async () => {
  const before = await marks()
  expect(await school.execute('attendance.correct', office, input)).toMatchObject({
    failure: { kind: 'large' },
  })

  const shown = await worked({ preview: true })
  expect(shown).toMatchObject({ state: 'done', runId: null })
  const { preview } = shown.result
  const rows = preview?.counts.reduce((sum, count) => sum + count.rows, 0) ?? 0
  expect(rows).toBeGreaterThan(limits.actAtOnce)
  expect(preview?.changes).toHaveLength(200)
  expect(await marks()).toEqual(before)

  const done = await worked({ fingerprint: preview?.fingerprint })
  expect(done).toMatchObject({ state: 'done', result: { value: { changed: rows } } })
  expect(
    (
      await school.row('select count(*)::int as n from attendance_mark where reason = $1 and code_id = $2', [
        input.reason,
        input.codeId,
      ])
    ).n,
  ).toBe(rows)
  // Taken up once more, as after a crash, it is not done again.
  await school.rows("update job set state = 'running' where id = $1", [done.jobId])
  await runJob({ schoolId: office.schoolId, id: done.jobId }, { last: true })
  expect(good(await school.query('work.result', office, { jobId: done.jobId }))).toMatchObject({
    state: 'done',
    runId: done.runId,
  })
  const own = good(await school.query('work.list', office, {})).find((one) => one.id === done.jobId)
  expect(own).toMatchObject({ runId: done.runId, title: `W for ${input.studentIds.length} students` })
  // A preview is news to nobody but the page that asked.
  expect(
    good(await school.query('work.list', office, {})).find((one) => one.id === shown.jobId),
  ).toMatchObject({ dismissedAt: expect.any(String) })

  const undo = { command: 'history.undo', input: { run: done.runId } }
  expect(await school.execute('history.undo', office, { run: done.runId ?? '' })).toMatchObject({
    failure: { kind: 'large', rows },
  })
  expect(await worked(undo)).toMatchObject({ state: 'done', result: { value: { left: 0 } } })
  expect(await marks()).toEqual(before)
  expect(
    good(await school.query('work.list', office, {})).find((one) => one.id === done.jobId)?.runId,
  ).toBeNull()
  expect(await worked(undo)).toMatchObject({
    state: 'failed',
    message: 'This has already been undone.',
    result: { failure: { kind: 'refused' } },
  })
})

test('where a colleague changes a mark after the preview, nothing is done and the new preview is there', async () => {
  const { preview } = (await worked({ preview: true })).result
  const [mark] = await school.rows(
    `select m.student_id, m.homeroom_id, m.version from attendance_mark m join attendance_code c on c.id = m.code_id
     where m.session_date = '2026-11-20' and m.session = 'morning' and c.code = 'P' and m.class_id is null limit 1`,
  )
  good(
    await setMark(school, office, {
      homeroomId: mark?.homeroomId,
      studentId: mark?.studentId,
      date: '2026-11-20',
      session: 'morning',
      codeId: input.codeId,
      minutesLate: null,
      note: null,
      expectedVersion: mark?.version,
    }),
  )
  const before = await marks()
  const late = await worked({ fingerprint: preview?.fingerprint })
  expect(late).toMatchObject({
    state: 'failed',
    result: {
      failure: { kind: 'preview changed', preview: { fingerprint: expect.any(String) } },
    },
  })
  expect(await marks()).toEqual(before)
})

test('cancelled on its way, nothing of it stays, and it can be tried again as a whole', async () => {
  const { executeCommand } = await import('@/server/platform/run')
  const { Cancelled } = await import('@/server/platform/cancelled')
  const { commands } = await import('@/server/registry')
  const command = commands.get('attendance.correct')
  if (!command) throw new Error('there are corrections')
  const before = await marks()
  const steps: number[] = []
  const stopped = executeCommand(command, office, input, {
    progress: async (done, total) => {
      steps.push(done / total)
      if (steps.length === 2) throw new Cancelled(done, total)
    },
  })
  await expect(stopped).rejects.toBeInstanceOf(Cancelled)
  expect(steps).toEqual([...steps].sort((a, b) => a - b))
  expect(await marks()).toEqual(before)

  const { jobId } = good(await begin({}))
  // Asked while it runs.
  await school.rows("update job set state = 'running', cancel_asked = true where id = $1", [jobId])
  await runJob({ schoolId: office.schoolId, id: jobId }, { last: true })
  expect(good(await school.query('work.result', office, { jobId }))).toMatchObject({
    state: 'cancelled',
    message: 'Cancelled. Nothing was changed.',
  })
  good(await school.execute('work.retry', office, { jobId }))
  await runJob({ schoolId: office.schoolId, id: jobId }, { last: true })
  const { state, runId } = good(await school.query('work.result', office, { jobId }))
  expect(state).toBe('done')
  expect(await worked({ command: 'history.undo', input: { run: runId } })).toMatchObject({ state: 'done' })
  expect(await marks()).toEqual(before)
})

test('what one may not do is not there in the background either, and neither is what is no large act', async () => {
  const teacher = await school.actor('r.achterberg')
  expect(bad(await begin({}, teacher)).kind).toBe('not found')
  expect(bad(await begin({ input: { ...input, reason: '' } })).kind).toBe('not found')
  expect(bad(await begin({ command: 'people.enrol' })).kind).toBe('not found')
  // A right that is lost while it waits is asked for again.
  const { jobId } = good(await begin({}))
  const before = await marks()
  await school.rows("update membership set role = 'teacher' where account_id = $1", [office.accountId])
  await runJob({ schoolId: office.schoolId, id: jobId }, { last: true })
  expect((await school.row('select state from job where id = $1', [jobId])).state).toBe('failed')
  expect(await marks()).toEqual(before)
  await school.rows("update membership set role = 'office' where account_id = $1", [office.accountId])
})
