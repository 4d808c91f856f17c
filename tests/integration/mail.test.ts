import { once } from 'node:events'
import { createServer, type AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import { simpleParser } from 'mailparser'
import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

// Mail on its way out: kept until a mail server takes it, sent once, given up in words.
interface Received {
  readonly id: string
  readonly to: string
  readonly subject: string
  readonly body: string
}
const received: Received[] = []
let answers: 'takes' | 'is busy' | 'refuses' = 'takes'
let server: SMTPServer
let school: TestSchool
let office: Actor

beforeAll(async () => {
  server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    logger: false,
    onData(stream, _session, done) {
      void simpleParser(stream).then((mail) => {
        if (answers === 'is busy')
          return done(Object.assign(new Error('try again later'), { responseCode: 451 }))
        if (answers === 'refuses')
          return done(Object.assign(new Error('no such mailbox'), { responseCode: 550 }))
        const to = Array.isArray(mail.to) ? mail.to[0] : mail.to
        received.push({
          id: mail.messageId ?? '',
          to: to?.text ?? '',
          subject: mail.subject ?? '',
          body: mail.text ?? '',
        })
        done()
      })
    },
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()))
  const { port } = server.server.address() as { port: number }
  process.env.SMTP_URL = `smtp://127.0.0.1:${port}?ignoreTLS=true`
  school = await openSchool('demo')
  office = await school.actor('e.leask')
})
afterAll(async () => {
  await school.close()
  await new Promise<void>((resolve) => server.close(() => resolve()))
})
beforeEach(() => {
  received.length = 0
  answers = 'takes'
})

/** Enrols a new student whose guardian gets an invitation; answers that mail's id. */
async function invite(family: string, email: string): Promise<string> {
  const homeroom = await school.row("select id, year_group_id from homeroom where name = '7 Tern'")
  good(
    await school.execute('people.enrol', office, {
      givenName: 'Wren',
      familyName: family,
      birthDate: '2014-03-08',
      yearGroupId: homeroom.yearGroupId,
      homeroomId: homeroom.id,
      classIds: [],
      startDate: '2026-11-23',
      guardian: { givenName: 'Bea', familyName: family, relation: 'mother', email },
    }),
  )
  const { id } = await school.row(
    "select id from mail where to_address = $1 and dedupe like 'invitation:%'",
    [email],
  )
  return id as string
}
const send = async (id: string, last = false) => {
  const { sendMail } = await import('@/worker/send-mail')
  return sendMail({ schoolId: office.schoolId, id }, { last })
}
const stands = (id: string) => school.row('select state, error, sent_at from mail where id = $1', [id])

test('is put on record and on the queue together with what it tells of', async () => {
  const id = await invite('Sandvik', 'bea.sandvik@islandmail.example')
  expect(await stands(id)).toMatchObject({ state: 'waiting', error: null, sentAt: null })
  const queued = await school.rows(
    "select max_attempts from graphile_worker._private_jobs where payload ->> 'id' = $1",
    [id],
  )
  // With pauses that grow to six hours, so many tries take about four days.
  expect(queued).toEqual([{ maxAttempts: 26 }])
})

test('goes to the person, says how to sign in, and is sent once however often it is tried', async () => {
  const id = await invite('Aske', 'bea.aske@islandmail.example')
  await send(id)
  await send(id)
  expect(received).toEqual([
    expect.objectContaining({
      id: `<${id}@kedge>`,
      to: '"Bea Aske" <bea.aske@islandmail.example>',
      subject: 'Wrackline School: your account',
      body: expect.stringMatching(/Open this link[^]*\/invitation\/[\w-]{32}/),
    }),
  ])
  const { state, sentAt } = await stands(id)
  expect(state).toBe('sent')
  expect(sentAt).toBeInstanceOf(Date)
})

test('that nobody takes stays, with the reason, until the last try; then it is given up', async () => {
  const id = await invite('Norrby', 'bea.norrby@islandmail.example')
  answers = 'is busy'
  await expect(send(id)).rejects.toThrow('try again later')
  expect(await stands(id)).toMatchObject({
    state: 'waiting',
    error: expect.stringContaining('try again later'),
  })
  await expect(send(id, true)).rejects.toThrow()
  expect(await stands(id)).toMatchObject({ state: 'failed', sentAt: null })
  const admin = await school.actor('m.vester')
  const notSent = good(await school.query('mail.notSent', admin, {}))
  expect(notSent.find((m) => m.id === id)).toMatchObject({
    state: 'failed',
    error: expect.stringContaining('try again later'),
  })

  // Sent again by hand, it still goes out, and the reason is gone.
  answers = 'takes'
  good(await school.execute('mail.sendAgain', admin, { mailId: id }))
  expect(bad(await school.execute('mail.sendAgain', admin, { mailId: id })).kind).toBe('refused')
  await send(id)
  expect(await stands(id)).toMatchObject({ state: 'sent', error: null })
})

test('that a server refuses for good is given up at once; one that waits can be sent now; a test mail arrives', async () => {
  const id = await invite('Ström', 'bea.strom@islandmail.example')
  answers = 'refuses'
  await send(id)
  expect(await stands(id)).toMatchObject({
    state: 'failed',
    error: expect.stringContaining('no such mailbox'),
  })
  const second = await invite('Berg', 'bea.berg@islandmail.example')
  answers = 'is busy'
  await expect(send(second)).rejects.toThrow('try again later')
  const admin = await school.actor('m.vester')
  good(await school.execute('mail.sendAgain', admin, { mailId: second }))
  expect(await stands(second)).toMatchObject({ state: 'waiting', error: null })
  answers = 'takes'
  await send(second)
  const { email } = good(await school.execute('mail.sendTest', admin, {}))
  const test = await school.row("select id from mail where subject = 'Test mail from Kedge'")
  await send(test.id)
  expect(received.at(-1)?.to).toContain(email)
})

test('addresses of people are in no line of the log', async () => {
  const { withoutAddresses } = await import('@/server/platform/log')
  expect(withoutAddresses('550 <bea.strom@islandmail.example>: no such user, try kedge')).toBe(
    '550 <[address]>: no such user, try kedge',
  )
})

test('of another school is not found, so nothing is sent', async () => {
  const id = await invite('Holm', 'bea.holm@islandmail.example')
  const { sendMail } = await import('@/worker/send-mail')
  await sendMail({ schoolId: crypto.randomUUID(), id }, { last: false })
  expect(received).toEqual([])
  expect(await stands(id)).toMatchObject({ state: 'waiting' })
})

test('leaves its trace in the history: waiting, then sent', async () => {
  const id = await invite('Lind', 'bea.lind@islandmail.example')
  await send(id)
  const steps = await school.rows(
    "select command, operation, before ->> 'state' as was, after ->> 'state' as is from history where table_name = 'mail' and row_key ->> 'id' = $1 order by id",
    [id],
  )
  expect(steps).toEqual([
    { command: 'people.enrol', operation: 'insert', was: null, is: 'waiting' },
    { command: 'mail.send', operation: 'update', was: 'waiting', is: 'sent' },
  ])
})

test('the stand-in mailbox keeps what it is sent, each mail once, in the school it is of', async () => {
  const { startMailbox } = await import('@/worker/stand-in-mailbox')
  const { createTransport } = await import('nodemailer')
  const probe = createServer().listen(0, '127.0.0.1')
  await once(probe, 'listening')
  const { port } = probe.address() as AddressInfo
  await new Promise<unknown>((resolve) => probe.close(resolve))
  const mailbox = await startMailbox(port)
  try {
    const transport = createTransport(`smtp://127.0.0.1:${port}?ignoreTLS=true`)
    const mail = {
      from: 'Kedge <kedge@localhost>',
      to: { name: 'Bea Lind', address: 'bea.lind@islandmail.example' },
      subject: 'Æ report card',
      text: 'Dear Bea,\n\nit is ready.',
      messageId: '<one@kedge>',
      headers: { 'X-Kedge-School': office.schoolId },
    }
    await transport.sendMail(mail)
    await transport.sendMail(mail)
    const kept = await school.rows(
      "select subject, body, recipient from stand_in.mailbox where message_id = '<one@kedge>'",
    )
    expect(kept).toEqual([
      {
        subject: 'Æ report card',
        body: expect.stringContaining('it is ready.'),
        recipient: '"Bea Lind" <bea.lind@islandmail.example>',
      },
    ])
    await expect(
      transport.sendMail({ ...mail, messageId: '<two@kedge>', headers: { 'X-Kedge-School': 'no school' } }),
    ).rejects.toThrow()
  } finally {
    await mailbox.stop()
  }
})
