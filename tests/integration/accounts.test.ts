import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

/** Accounts of people who are several things, in several schools, and how they come to be members. */

let school: TestSchool
let office: Actor
let homeroom: { id: string; yearGroupId: string }
const password = 'seven grey seals'
const nobody = new Headers()
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  homeroom = await school.row("select id, year_group_id from homeroom where name = '7 Tern'")
})
afterAll(() => school.close())

let children = 0
const enrol = (familyName: string, email: string, over: object = {}) =>
  school.execute('people.enrol', office, {
    givenName: `Kid${++children}`,
    familyName,
    birthDate: '2015-03-04',
    yearGroupId: homeroom.yearGroupId,
    homeroomId: homeroom.id,
    classIds: [],
    startDate: '2026-11-24',
    guardian: { givenName: 'Bram', familyName, relation: 'father', email, phone: '' },
    ...over,
  })
const invitationTo = (email: string) =>
  school.row<{ id: string; personId: string }>(
    'select id, person_id from invitation where email = $1 order by id desc limit 1',
    [email],
  )
/** The link as the mail would carry it. */
async function linkFor(email: string): Promise<string> {
  const { invitationLink } = await import('@/server/platform/invitation')
  const { inSchool } = await import('@/server/platform/in-school')
  const { database } = await import('@/server/platform/database')
  const { id } = await invitationTo(email)
  const link = await database()
    .transaction()
    .execute((db) => inSchool(db, office, { command: 'test' }, (context) => invitationLink(context, id)))
  return link.split('/').at(-1) ?? ''
}
const modules = async () => ({
  ...(await import('@/server/platform/invitation')),
  ...(await import('@/server/platform/sign-in')),
  ...(await import('@/server/platform/session')),
})
async function cookiesOf(name: string, typed: string): Promise<Headers> {
  const { signIn } = await modules()
  const answer = await signIn(name, typed, new Headers())
  if (!answer.ok) throw new Error(answer.message)
  return new Headers({ cookie: answer.cookies.map((c) => c.split(';')[0]).join('; ') })
}

test.each([
  'bram+school@islandmail.example',
  "o'hara@islandmail.example",
  `${'a'.repeat(52)}@islandmail.example`,
  'plain@islandmail.example',
])('a guardian invited as %s chooses a password by the link and signs in with the address', async (email) => {
  good(await enrol(`Fam${children}`, email))
  const { acceptInvitation, openInvitation, signIn } = await modules()
  const token = await linkFor(email)
  expect(await openInvitation(token)).toMatchObject({
    email,
    hasAccount: false,
    schoolName: 'Wrackline School',
  })
  expect(await acceptInvitation(token, { password: 'short', headers: nobody })).toMatchObject({
    kind: 'password',
  })
  expect((await acceptInvitation(token, { password, headers: nobody })).kind).toBe('accepted')
  expect((await acceptInvitation(token, { password, headers: nobody })).kind).toBe('used')
  expect((await signIn(email.toUpperCase(), password, new Headers())).ok).toBe(true)
  expect(await school.actor(email)).toMatchObject({ roles: ['guardian'] })
})

test('an invitation whose link is lost is sent again, until there is an account', async () => {
  const email = 'again@islandmail.example'
  const { studentId } = good(await enrol('Again', email))
  const { personId } = await invitationTo(email)
  const again = () => school.execute('people.inviteAgain', office, { studentId, guardianId: personId })
  good(await again())
  expect(await school.rows('select 1 from mail where to_address = $1', [email])).toHaveLength(2)
  const { acceptInvitation } = await modules()
  expect((await acceptInvitation(await linkFor(email), { password, headers: nobody })).kind).toBe('accepted')
  expect(bad(await again())).toMatchObject({ code: 'people.hasAccount' })
})

test('nothing that opens an account is kept in a mail, in the history or beside the link', async () => {
  const email = 'secret@islandmail.example'
  good(await enrol('Secret', email))
  const token = await linkFor(email)
  const { n } = await school.row(
    `select (select count(*) from mail where body like $1 or about::text like $1) + (select count(*) from history where after::text like $1 or before::text like $1)
      + (select count(*) from auth.one_time_link where token_hash = $2) as n`,
    [`%${token}%`, token],
  )
  expect(Number(n)).toBe(0)
  await school.rows("update auth.one_time_link set expires_at = now() - interval '1 minute'")
  const { openInvitation } = await modules()
  expect(await openInvitation(token)).toBeUndefined()
})

describe('who has a mailbox that was invited by mistake', () => {
  const wrong = 'wrong.house@islandmail.example'
  const right = 'right.house@islandmail.example'
  let studentId: string
  let personId: string
  beforeAll(async () => {
    studentId = good(await enrol('Mistaken', wrong)).studentId
    personId = (await invitationTo(wrong)).personId
  })
  const correct = async (email: string) => {
    const now = good(await school.query('people.student', office, { studentId }))
    const g = now.guardians.find((x) => x.id === personId)
    if (!g) throw new Error('the guardian is on the record')
    const { givenName, familyName, relation, phone, language, address, contactOrder, mayReceiveReports } = g
    return school.execute('people.saveGuardian', office, {
      studentId,
      guardianId: personId,
      expectedVersion: g.version,
      expectedRelation: g.relationVersion,
      ...{ givenName, familyName, relation, phone, language, address, contactOrder, mayReceiveReports },
      email,
    })
  }

  test('is nobody’s guardian once the address is corrected, before and after the right one accepts', async () => {
    const { acceptInvitation, openInvitation } = await modules()
    const old = await linkFor(wrong)
    expect(await openInvitation(old)).toMatchObject({ email: wrong })
    good(await correct(right))
    expect(await openInvitation(old)).toBeUndefined()
    expect((await acceptInvitation(old, { password, headers: nobody })).kind).toBe('used')
    good(await school.execute('people.inviteAgain', office, { studentId, guardianId: personId }))
    const first = await linkFor(right)
    good(await school.execute('people.inviteAgain', office, { studentId, guardianId: personId }))
    expect((await acceptInvitation(first, { password, headers: nobody })).kind).toBe('used')
    expect((await acceptInvitation(await linkFor(right), { password, headers: nobody })).kind).toBe(
      'accepted',
    )
    expect((await acceptInvitation(old, { password, headers: nobody })).kind).toBe('used')
    expect(await school.rows('select 1 from membership where person_id = $1', [personId])).toHaveLength(1)
  })

  test('a second account for one guardian is refused by the database itself', async () => {
    const other = await school.row('select id from auth."user" where username = $1', ['t.farouk'])
    await expect(
      school.rows(
        `insert into membership (school_id, account_id, role, person_id, name)
         select school_id, $1, role, person_id, name from membership where person_id = $2`,
        [other.id, personId],
      ),
    ).rejects.toThrow('membership_of_guardian')
  })

  test('the office sees who has access and ends it; open invitations and sessions end with it', async () => {
    const { readSession } = await modules()
    const cookies = await cookiesOf(right, password)
    expect((await readSession(cookies)).kind).toBe('signed in')
    const expectedVersion = good(await school.query('people.student', office, { studentId }))
    expect(expectedVersion.guardians.find((g) => g.id === personId)?.signsInAs).toBe(right)
    const end = () => school.execute('people.endGuardianAccess', office, { studentId, guardianId: personId })
    good(await end())
    expect((await readSession(cookies)).kind).toBe('signed out')
    expect(bad(await end())).toMatchObject({ code: 'people.noAccess' })
    const after = good(await school.query('people.student', office, { studentId }))
    expect(after.guardians.find((g) => g.id === personId)?.signsInAs).toBeNull()
  })
})

/** The link of the newest mail to an address about a password, as the mail would carry it. */
async function passwordLinkFor(address: string): Promise<string> {
  const { mails } = await import('@/server/registry')
  const { inSchool } = await import('@/server/platform/in-school')
  const { database } = await import('@/server/platform/database')
  const { kind, about } = await school.row<{ kind: string; about: object }>(
    'select kind, about from mail where to_address = $1 order by id desc limit 1',
    [address],
  )
  const link = await database()
    .transaction()
    .execute((db) =>
      inSchool(db, office, { command: 'test' }, (context) => mails.get(kind)!.link!(context, about)),
    )
  expect(link).toContain('/new-password/')
  return link.split('/').at(-1) ?? ''
}
const mailsTo = async (address: string) =>
  (await school.rows('select 1 from mail where to_address = $1', [address])).length

describe('a forgotten password', () => {
  const address = 's.kirkness@wrackline.example'
  const chosen = 'nine quiet lighthouses'

  test('is replaced by a link that works once, and all sessions end', async () => {
    const { requestPasswordLink } = await import('@/server/front/account')
    const { openPasswordLink, setPasswordByLink } = await import('@/server/platform/new-password')
    const { readSession, signIn } = await modules()
    const before = await cookiesOf('s.kirkness', 'harbour lights at dusk')
    await requestPasswordLink(' S.Kirkness ')
    const [token, other] = [await passwordLinkFor(address), await passwordLinkFor(address)]
    expect(await openPasswordLink(token)).toMatchObject({ username: 's.kirkness', email: address })
    expect(await setPasswordByLink(token, 'short')).toMatchObject({ kind: 'password' })
    expect(await setPasswordByLink(token, 'Wrackline School!')).toMatchObject({ kind: 'password' })
    expect((await readSession(before)).kind).toBe('signed in')
    expect(await setPasswordByLink(token, chosen)).toEqual({ kind: 'changed', username: 's.kirkness' })
    expect((await readSession(before)).kind).toBe('signed out')
    expect(await setPasswordByLink(token, 'another quiet lighthouse')).toEqual({ kind: 'used' })
    expect(await setPasswordByLink(other, 'another quiet lighthouse')).toEqual({ kind: 'used' })
    expect(await openPasswordLink(token)).toBeUndefined()
    expect((await signIn('s.kirkness', 'harbour lights at dusk', new Headers())).ok).toBe(false)
    expect((await signIn('s.kirkness', chosen, new Headers())).ok).toBe(true)
  })

  test('two who use one link at once: one password is set', async () => {
    const { requestPasswordLink } = await import('@/server/front/account')
    const { setPasswordByLink } = await import('@/server/platform/new-password')
    await requestPasswordLink('s.kirkness')
    const token = await passwordLinkFor(address)
    const done = await Promise.all([
      setPasswordByLink(token, 'first of two seagulls'),
      setPasswordByLink(token, 'other of two seagulls'),
    ])
    expect(done.map((d) => d.kind).sort()).toEqual(['changed', 'used'])
  })

  test('is no way in once the owner has chosen another by hand', async () => {
    const { requestPasswordLink } = await import('@/server/front/account')
    const { openPasswordLink, setPasswordByLink } = await import('@/server/platform/new-password')
    const head = await school.actor('s.kirkness')
    await school.rows('delete from auth.sign_in_attempt')
    await requestPasswordLink('s.kirkness')
    const token = await passwordLinkFor(address)
    expect(await openPasswordLink(token)).toBeDefined()
    await school.rows('update auth."user" set "mustChangePassword" = true where id = $1', [head.accountId])
    good(await school.execute('account.setOwnPassword', head, { password: 'third of two seagulls' }))
    expect(await openPasswordLink(token)).toBeUndefined()
    expect(await setPasswordByLink(token, 'a stranger by the pier')).toEqual({ kind: 'used' })
  })

  test('an old link, a guessed one and one for an invitation do not work', async () => {
    const { openPasswordLink, setPasswordByLink } = await import('@/server/platform/new-password')
    const { requestPasswordLink } = await import('@/server/front/account')
    expect(await openPasswordLink('guessed')).toBeUndefined()
    const email = 'not-yours@islandmail.example'
    good(await enrol('Notyours', email))
    expect(await setPasswordByLink(await linkFor(email), chosen)).toEqual({ kind: 'used' })
    await requestPasswordLink('s.kirkness')
    const token = await passwordLinkFor(address)
    await school.rows("update auth.one_time_link set expires_at = now() - interval '1 minute'")
    expect(await setPasswordByLink(token, chosen)).toEqual({ kind: 'used' })
  })

  test('is mailed three times an hour at most, and nothing for names without an account or an address', async () => {
    const { requestPasswordLink } = await import('@/server/front/account')
    const sent = await mailsTo('t.farouk@wrackline.example')
    for (let i = 0; i < 5; i++) await requestPasswordLink('t.farouk')
    expect(await mailsTo('t.farouk@wrackline.example')).toBe(sent + 3)
    const all = async () => (await school.rows('select 1 from mail')).length
    const before = await all()
    await requestPasswordLink('nobody.at.all')
    const admin = await school.actor('m.vester')
    good(
      await school.execute('staff.create', admin, {
        givenName: 'Noel',
        familyName: 'Harcus',
        username: 'n.harcus',
        roles: ['teacher'],
        password,
      }),
    )
    await requestPasswordLink('n.harcus')
    expect(await all()).toBe(before)
    const { id: staffId } = await school.row<{ id: string }>(
      "select id from staff_member where family_name = 'Harcus' and given_name = 'Noel'",
    )
    expect(bad(await school.execute('staff.mailSignIn', admin, { staffId }))).toMatchObject({
      code: 'staff.noAddress',
    })
  })

  test('an administrator mails the user name with a link; the present password works until it is used', async () => {
    const admin = await school.actor('m.vester')
    const { staffId } = good(
      await school.execute('staff.create', admin, {
        givenName: 'Inga',
        familyName: 'Flett',
        username: 'i.flett',
        email: 'inga@islandmail.example',
        roles: ['teacher'],
        password,
      }),
    )
    good(await school.execute('staff.mailSignIn', admin, { staffId }))
    const { body } = await school.row<{ body: string | null }>(
      "select body from mail where to_address = 'inga@islandmail.example'",
    )
    expect(body).toBeNull()
    const { signIn } = await modules()
    expect((await signIn('i.flett', password, new Headers())).ok).toBe(true)
    const { setPasswordByLink } = await import('@/server/platform/new-password')
    expect(await setPasswordByLink(await passwordLinkFor('inga@islandmail.example'), chosen)).toMatchObject({
      kind: 'changed',
    })
    expect((await signIn('i.flett', password, new Headers())).ok).toBe(false)
    expect((await signIn('i.flett', chosen, new Headers())).ok).toBe(true)
  })
})

test('a guardian who works at the school is enrolled with, and is both after accepting', async () => {
  const email = 'r.achterberg@wrackline.example'
  good(
    await enrol('Achterberg', email, {
      guardian: { givenName: 'Remi', familyName: 'Achterberg', relation: 'father', email },
    }),
  )
  expect((await school.actor('r.achterberg')).roles).toEqual(['teacher'])
  const { acceptInvitation, openInvitation } = await modules()
  const token = await linkFor(email)
  expect(await openInvitation(token)).toMatchObject({ hasAccount: true })
  // Knowing the link is not enough: the account's owner signs in.
  expect((await acceptInvitation(token, { password, headers: nobody })).kind).toBe('sign in first')
  expect((await acceptInvitation(token, { headers: nobody })).kind).toBe('sign in first')
  const signedIn = await cookiesOf('r.achterberg', 'harbour lights at dusk')
  expect((await acceptInvitation(token, { headers: signedIn })).kind).toBe('accepted')
  const actor = await school.actor('r.achterberg')
  expect([...actor.roles].sort()).toEqual(['guardian', 'teacher'])
  expect(actor.guardianId).toBe((await invitationTo(email)).personId)
  expect(good(await school.query('reports.myCards', actor, {}))).toEqual([])
  good(await school.query('assessment.list', actor, { date: '2026-11-23' }))
})

let second: Promise<string> | undefined
/** A second school whose administrator Hedda has an address; made once. Answers her password. */
const heddasPassword = () =>
  (second ??= (async () => {
    const { createSchool } = await import('@/terminal/create-school')
    const initial = await createSchool(school.ownerUrl, {
      name: 'Second',
      shortName: 'second',
      username: 'hedda.second',
      adminName: 'Hedda Second',
    })
    await school.rows(
      `update auth."user" set email = 'hedda@second.example', "mustChangePassword" = false where username = 'hedda.second'`,
    )
    return initial
  })())

test('another school cannot take an account into itself; with several schools the person chooses', async () => {
  const initial = await heddasPassword()
  good(
    await enrol('Second', 'hedda@second.example', {
      guardian: {
        givenName: 'Hedda',
        familyName: 'Second',
        relation: 'mother',
        email: 'hedda@second.example',
      },
    }),
  )
  const { acceptInvitation, enterSchool, readSession } = await modules()
  const headers = await cookiesOf('hedda.second', initial)
  expect(await readSession(headers)).toMatchObject({ kind: 'signed in', actor: { schoolName: 'Second' } })
  expect((await acceptInvitation(await linkFor('hedda@second.example'), { headers })).kind).toBe('accepted')
  expect(await readSession(headers)).toMatchObject({
    kind: 'choose school',
    schools: [{ roles: ['guardian'] }, { roles: ['administrator'] }],
  })
  expect(await enterSchool(headers, crypto.randomUUID())).toBe(false)
  expect(await enterSchool(headers, office.schoolId)).toBe(true)
  expect(await readSession(headers)).toMatchObject({
    kind: 'signed in',
    actor: { schoolName: 'Wrackline School', roles: ['guardian'], severalSchools: true },
  })
  // The next session begins where this one worked last, and stays there when another one goes elsewhere.
  const later = await cookiesOf('hedda.second', initial)
  expect(await readSession(later)).toMatchObject({ actor: { schoolName: 'Wrackline School' } })
  const second = await school.row("select id from school where short_name = 'second'")
  expect(await enterSchool(headers, second.id)).toBe(true)
  expect(await readSession(headers)).toMatchObject({ actor: { schoolName: 'Second' } })
  expect(await readSession(later)).toMatchObject({ actor: { schoolName: 'Wrackline School' } })
  expect(await readSession(await cookiesOf('hedda.second', initial))).toMatchObject({
    actor: { schoolName: 'Second' },
  })
})

describe('an address that an administrator entered', () => {
  const wrong = 'somebody.else@islandmail.example'
  const linksTo = async (address: string) => {
    const { requestPasswordLink } = await import('@/server/front/account')
    await school.rows('delete from auth.sign_in_attempt')
    await school.rows('delete from mail where to_address = $1', [address])
    await requestPasswordLink(address)
    return mailsTo(address)
  }
  async function confirmLink(accountId: string, address: string): Promise<string> {
    const { confirmationLink } = await import('@/server/platform/confirmed-address')
    const { inSchool } = await import('@/server/platform/in-school')
    const { database } = await import('@/server/platform/database')
    const link = await database()
      .transaction()
      .execute((db) =>
        inSchool(db, office, { command: 'test' }, (context) => confirmationLink(context, accountId, address)),
      )
    return link.split('/').at(-1) ?? ''
  }

  test('opens nothing at another school until its person has confirmed it', async () => {
    const { acceptInvitation } = await modules()
    const { confirmAddress } = await import('@/server/platform/confirmed-address')
    const { openPasswordLink } = await import('@/server/platform/new-password')
    const initial = await heddasPassword()
    const hedda = await school.row<{ id: string }>(
      `select id from auth."user" where username = 'hedda.second'`,
    )
    const signedIn = await cookiesOf('hedda.second', initial)
    good(
      await enrol('Second', 'hedda@second.example', {
        guardian: {
          givenName: 'Hedda',
          familyName: 'Second',
          relation: 'aunt',
          email: 'hedda@second.example',
        },
      }),
    )
    await acceptInvitation(await linkFor('hedda@second.example'), { headers: signedIn })
    // Her address came with the invitation, which she opened: it counts, at both schools.
    expect(await linksTo('hedda@second.example')).toBe(1)
    // The first school enters another one, behind her back.
    await school.rows(`update auth."user" set email = $2, "emailVerified" = false where id = $1`, [
      hedda.id,
      wrong,
    ])
    expect(await linksTo(wrong)).toBe(0)

    const token = await confirmLink(hedda.id, wrong)
    expect(await openPasswordLink(token)).toBeUndefined()
    expect(await confirmAddress(token, nobody)).toEqual({ kind: 'sign in first', username: 'hedda.second' })
    const stranger = await cookiesOf('e.leask', 'harbour lights at dusk')
    expect((await confirmAddress(token, stranger)).kind).toBe('sign in first')
    expect(await linksTo(wrong)).toBe(0)
    const own = await cookiesOf('hedda.second', initial)
    expect(await confirmAddress(token, own)).toEqual({ kind: 'confirmed', email: wrong })
    expect(await confirmAddress(token, own)).toEqual({ kind: 'used' })
    expect(await linksTo(wrong)).toBe(1)

    // A link to an address that is no longer the account's confirms nothing, nor does one for a password.
    const old = await confirmLink(hedda.id, 'hedda@second.example')
    expect((await confirmAddress(old, own)).kind).toBe('used')
    expect((await confirmAddress(await passwordLinkFor(wrong), own)).kind).toBe('used')

    // Who joins another school by an invitation to another address has theirs to confirm again.
    good(await enrol('Thirdly', 'hedda.private@islandmail.example'))
    expect(
      (await acceptInvitation(await linkFor('hedda.private@islandmail.example'), { headers: own })).kind,
    ).toBe('accepted')
    expect(await linksTo(wrong)).toBe(0)
  })

  test('is not confirmed by being changed in the staff record', async () => {
    const admin = await school.actor('m.vester')
    const { staffId, accountId } = await school.row(
      `select s.id as staff_id, m.account_id from staff_member s join membership m on m.person_id = s.id
        where m.name = 'Ewan Leask'`,
    )
    await school.rows('update auth."user" set "emailVerified" = true where id = $1', [accountId])
    const { versions } = good(await school.query('staffing.member', admin, { staffId }))
    good(
      await school.execute('staff.setMember', admin, {
        staffId,
        cells: [
          {
            key: { field: 'email' },
            value: 'desk.new@islandmail.example',
            expectedVersion: versions.email ?? 0,
          },
        ],
      }),
    )
    const actor = await school.actor('e.leask')
    expect(good(await school.query('account.address', actor, {}))).toEqual({
      email: 'desk.new@islandmail.example',
      confirmed: false,
    })
    expect(good(await school.execute('account.confirmOwnAddress', actor, {}))).toEqual({
      email: 'desk.new@islandmail.example',
    })
    expect(await mailsTo('desk.new@islandmail.example')).toBe(1)
  })
})

test('sixty tries at once: five are looked at', async () => {
  const { signIn } = await modules()
  const answers = await Promise.all(
    Array.from({ length: 60 }, () => signIn('j.tulloch', 'wrong wrong', new Headers())),
  )
  expect(answers.filter((a) => !a.ok && a.status === 401)).toHaveLength(5)
  expect(answers.filter((a) => !a.ok && a.status === 429)).toHaveLength(55)
})

test('a time zone that does not exist makes no school, and a school that has one is served in UTC', async () => {
  const { createSchool } = await import('@/terminal/create-school')
  const { today } = await import('@/server/platform/clock')
  const asked = { name: 'Zone', shortName: 'zone', username: 'zone.admin', adminName: 'Zoe Zone' }
  await expect(createSchool(school.ownerUrl, { ...asked, timeZone: 'Europe/Lodnon' })).rejects.toThrow(
    'Europe/Lodnon is not a time zone',
  )
  await expect(school.rows("update school set time_zone = 'Europe/Lodnon'")).rejects.toThrow(
    'school_time_zone',
  )
  expect(today('Europe/Lodnon')).toMatch(/^\d{4}-\d\d-\d\d$/)
  good(await school.query('shell.frame', { ...office, timeZone: 'Europe/Lodnon' }, {}))
})

test('a telephone typed for a known guardian is kept; an applicant’s guardian is corrected, not doubled', async () => {
  const email = 'p.phone@islandmail.example'
  const guardian = { givenName: 'Pia', familyName: 'Phone', relation: 'mother', email, phone: '' }
  good(await enrol('Phone', email, { guardian }))
  good(await enrol('Phone', email, { guardian: { ...guardian, phone: '000 1234' } }))
  expect(await school.rows('select phone from guardian where email = $1', [email])).toEqual([
    { phone: '000 1234' },
  ])

  const noor = await school.row("select * from student where sort_name = 'Iversen, Noor'")
  const [known] = good(await school.query('people.applicantGuardians', office, { studentId: noor.id }))
  const corrected = 'corrected.address@islandmail.example'
  good(
    await enrol('Iversen', corrected, {
      applicantId: noor.id,
      givenName: 'Noor',
      birthDate: noor.birthDate,
      startDate: '2026-11-23',
      guardian: {
        id: known?.id,
        givenName: known?.givenName,
        familyName: known?.familyName,
        relation: known?.relation,
        email: corrected,
      },
    }),
  )
  const after = await school.rows(
    'select g.email from guardianship x join guardian g on g.id = x.guardian_id where x.student_id = $1 and g.id = $2',
    [noor.id, known?.id],
  )
  expect(after).toEqual([{ email: corrected }])
  const taken = bad(
    await enrol('Other', email, { guardian: { ...guardian, givenName: 'Ola', familyName: 'Other' } }),
  )
  expect(taken).toMatchObject({ kind: 'invalid', fields: [{ path: 'guardian.email' }] })
})

test('an enrolment is undone whole; its number is not given again, and a changed record stops it', async () => {
  const enrolled = await enrol('Undo', 'undo@islandmail.example')
  const { studentId, number } = good(enrolled)
  const run = enrolled.ok ? (enrolled.run ?? '') : ''
  good(await school.execute('history.undo', office, { run }))
  for (const table of ['student', 'guardian', 'enrolment', 'homeroom_member', 'guardianship'])
    expect(
      await school.rows(
        `select 1 from ${table} where ${table === 'student' ? 'id' : table === 'guardian' ? "email = 'undo@islandmail.example' or id" : 'student_id'} = $1`,
        [studentId],
      ),
    ).toEqual([])
  expect(bad(await school.execute('history.undo', office, { run }))).toMatchObject({
    code: 'history.alreadyUndone',
  })
  const { openInvitation } = await modules()
  expect(await openInvitation(await linkFor('undo@islandmail.example'))).toBeUndefined()

  const next = await enrol('Undo', '')
  expect(good(next).number).toBe(number + 1)
  await school.rows("update student set address = 'Elsewhere' where id = $1", [good(next).studentId])
  expect(
    bad(await school.execute('history.undo', office, { run: next.ok ? (next.run ?? '') : '' })),
  ).toMatchObject({ code: 'history.changedSince' })
  expect(await school.rows('select 1 from student where id = $1', [good(next).studentId])).toHaveLength(1)
})
