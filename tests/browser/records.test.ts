import { createHash } from 'node:crypto'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { openApplication, type Application } from './application'
import type { Person } from './person'

// Records with photos, two that are one student, lists that are narrowed, the students of a class, and who may see what.

let app: Application
let office: Person
let admin: Person
let ilse: string
beforeAll(async () => {
  app = await openApplication('demo', `kedge_browser_records_${process.pid}`)
  ilse = String((await app.rows("select id from student where sort_name = 'Okonjo-Marsh, Ilse'"))[0]?.id)
  office = await app.signedIn('e.leask')
  admin = await app.signedIn('m.vester')
})
afterAll(async () => {
  await app.close()
})
afterEach(() => {
  expect([office, admin].flatMap((p) => p.complaints)).toEqual([])
})

const pictureFile = async (name: string, bytes: Buffer | string) => {
  const path = join(tmpdir(), `kedge-${process.pid}-${name}`)
  await writeFile(path, bytes)
  return path
}
const choosePicture = async (person: Person, path: string) => {
  const input = await person.page.waitForSelector('[role=dialog] input[type=file]')
  await (input as import('puppeteer-core').ElementHandle<HTMLInputElement>).uploadFile(path)
}

describe('a photo', () => {
  test('is chosen, cut by the server, shown, and taken back by undo', async () => {
    const picture = await sharp({ create: { width: 600, height: 900, channels: 3, background: '#8899aa' } })
      .jpeg()
      .toBuffer()
    await office.go(`/people/${ilse}`)
    await office.enterOn('Add a photo')
    await choosePicture(office, await pictureFile('ilse.jpg', picture))
    await office.page.waitForSelector('[role=dialog] img')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Save')
    await office.sees('The photo was saved.')
    const width = await office.page.waitForFunction(
      () => document.querySelector<HTMLImageElement>('img[alt="Photo of Ilse Okonjo-Marsh"]')?.naturalWidth,
    )
    expect(await width.jsonValue()).toBe(480)
    expect(await office.axe()).toEqual([])
    await office.enterOn('Undo')
    await office.sees('Add a photo')
  })

  test('a drawing that calls itself a picture is refused in words', async () => {
    await office.go(`/people/${ilse}`)
    await office.enterOn('Add a photo')
    const drawing = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
    await choosePicture(office, await pictureFile('drawing.png', drawing))
    await office.enterOn('Save')
    await office.sees('is not a JPEG, PNG or WebP picture.')
    await office.press('Escape')
  })
})

test('attendance, marks and assessments stand in short on the record, as far as one may open them', async () => {
  await office.go(`/people/${ilse}`)
  await office.sees('Attendance, 2026/27')
  await office.sees('half-days')
  await office.seesNot('Marks, Autumn')
  await admin.go(`/people/${ilse}`)
  await admin.sees('Marks, Autumn')
  expect(await admin.axe()).toEqual([])
  await admin.enterOn('7 Science A')
  await admin.sees('7 Science A, marks')
})

test('a student entered twice is merged after a preview, and the other record leads to the one that stays', async () => {
  const [first] = await app.rows("select id from student where sort_name = 'Abara, Tobias'")
  await office.go(`/people/${ilse}`)
  await office.enterOn('Merge with another record')
  await office.fill('The other record', 'abara tob')
  await office.enterOn('Abara, Tobias')
  await office.sees('Which record stays?')
  expect(await office.axe()).toEqual([])
  await office.enterOn('Show what will change')
  await office.sees('Student record: 2 changed')
  expect(await office.axe()).toEqual([])
  await office.enterOn('Merge')
  await office.sees('The records were merged.')
  await office.sees('This record was merged into Tobias Abara')
  await office.enterOn('Undo')
  await office.sees('Undone.')
  await office.seesNot('This record was merged into')
  expect(await app.rows('select 1 from student where merged_into is not null')).toEqual([])
  expect(first).toBeDefined()
})

describe('lists', () => {
  test('are narrowed to a kind that stays in the address, and what is ticked can be written to', async () => {
    await office.go('/people')
    await office.choose('Only homeroom', '7 Tern')
    await office.sees('28 of 616')
    await office.page.waitForFunction(() => location.search.includes('only=homeroom'))
    await office.page.reload({ waitUntil: 'load' })
    await office.settled()
    await office.sees('28 of 616')
    await office.focus('All 28 shown[role="checkbox"]')
    await office.press('Space')
    await office.sees('28 students chosen')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Write to guardians')
    await office.sees('will get it')
    await office.fill('Subject', 'No ferry on Friday')
    await office.fill('Message', 'The ferry does not sail on Friday morning.')
    expect(await office.axe()).toEqual([])
    await office.enterOn('Send')
    await office.sees('messages are on their way.')
    const [sent] = await app.rows("select count(*)::int as n from mail where kind = 'people.guardianMessage'")
    expect(sent?.n).toBeGreaterThan(28)
  })

  test('a number of the crossed table opens exactly the students behind it', async () => {
    await admin.go('/school/set-up')
    const number = await admin.page.waitForSelector('button[aria-label$=", Science, Year 7"]')
    const count = await number?.evaluate((e) => e.textContent)
    await number?.focus()
    await admin.press('Enter')
    await admin.sees(`Science, Year 7: ${count} enrolments`)
    await admin.sees('7 Science A')
    expect(await admin.axe()).toEqual([])
  })
})

test('students join a class by homeroom from a day on, leave it together, and both are undone', async () => {
  const [{ id } = { id: '' }] = await app.rows("select id from class where name = '7 Science B'")
  const members = async () =>
    (await app.rows("select 1 from class_member where class_id = $1 and period @> date '2026-12-01'", [id]))
      .length
  await office.go(`/classes/${id}/students`)
  const before = await members()
  await office.enterOn('Add students')
  await office.sees('Choose all 28')
  await office.choose('From', '7 Tern')
  await office.enterOn('Choose all 28')
  await office.sees('28 students chosen')
  expect(await office.axe()).toEqual([])
  await office.enterOn('Add 28 students')
  await office.sees('28 students added to 7 Science B from Mon 23 Nov.')
  expect(await members()).toBe(before + 28)
  await office.enterOn('Undo')
  await office.sees('Undone.')
  expect(await members()).toBe(before)
  await office.page.focus('thead input[type=checkbox]')
  await office.press('Space')
  await office.enterOn('Take out of the class')
  await office.sees(`Take ${before} students out of 7 Science B`)
  expect(await office.axe()).toEqual([])
  await office.enterOn('Take out')
  await office.sees(`Last day of ${before} students in 7 Science B: Mon 23 Nov.`)
  expect(await members()).toBe(0)
  await office.enterOn('Undo')
  await office.sees('Undone.')
  expect(await members()).toBe(before)
})

test('an administrator decides what teachers see of students they do not teach', async () => {
  const [{ id } = { id: '' }] = await app.rows(
    "select m.student_id as id from homeroom_member m join homeroom h on h.id = m.homeroom_id where h.name = '2 Plover' limit 1",
  )
  const teacher = await app.signedIn('r.achterberg')
  await teacher.go(`/people/${id}`)
  await teacher.sees('Legal given name')
  await teacher.seesNot('Guardians, in the order to call')
  await admin.go('/school/settings')
  expect(await admin.axe()).toEqual([])
  await admin.page.focus('input[type=radio]:checked')
  await admin.press('ArrowDown', 'ArrowDown')
  await admin.page.waitForFunction(
    () => document.querySelectorAll<HTMLInputElement>('input[type=radio]')[2]?.checked === true,
  )
  await admin.fill('Per cent present', '101')
  await admin.sees('Enter a whole number from 1 to 100.')
  await admin.fill('Per cent present', '93')
  await admin.enterOn('Save')
  await admin.sees('The settings were saved.')
  await app.until(
    "select 1 from school_setting where teachers_see = 'contacts' and attendance_threshold = 93",
  )
  await admin.go('/attendance/figures')
  await admin.sees('below 93%')
  await teacher.go(`/people/${id}`)
  await teacher.sees('Guardians, in the order to call')
  expect(teacher.complaints).toEqual([])
  await teacher.close()
})

test('the year is changed on its drawing: an edge is dragged, and the dialog says what follows', async () => {
  await admin.go('/school/year')
  const edge = await admin.page.waitForSelector('[data-edge="Summer last"]')
  const box = await edge?.boundingBox()
  if (!box) throw new Error('the edge is drawn')
  await admin.page.mouse.move(box.x + 3, box.y + 30)
  await admin.page.mouse.down()
  await admin.page.mouse.move(box.x - 40, box.y + 30, { steps: 5 })
  await admin.page.mouse.up()
  await admin.page.waitForSelector('[role=dialog] input[name=name]')
  const last = await admin.page.$$eval('[role=dialog] input', (all) => all.map((i) => i.value))
  expect(last[0]).toBe('Summer')
  expect(last[2]).not.toBe('Fri 16 Jul 2027')
  await admin.sees('school days.')
  await admin.press('Escape')
  await admin.enterOn('Add a period')
  await admin.fill('Name', 'Resits')
  await admin.page.focus('[role=dialog] input[name=name]')
  expect(await admin.axe()).toEqual([])
  await admin.press('Escape')
})

test('a forgotten password is replaced by a link that works once', async () => {
  const person = await app.person()
  await person.go('/sign-in')
  await person.enterOn('Forgotten your password?')
  await person.sees('Kedge mails a link')
  expect(await person.axe()).toEqual([])
  await person.fill('User name or e-mail', 'r.achterberg')
  await person.press('Enter')
  await person.sees('If the account has an e-mail address, a link is on its way to it.')
  await app.until("select 1 from mail where kind = 'account.forgottenPassword'")
  // The link as the mail carries it; only its hash is kept.
  const token = 'a'.repeat(32)
  await app.rows(
    `insert into auth.one_time_link (token_hash, school_id, account_id, expires_at)
     select $1, m.school_id, m.account_id, now() + interval '1 hour' from membership m
     join auth."user" u on u.id = m.account_id where u.username = 'r.achterberg' limit 1`,
    [createHash('sha256').update(token).digest('hex')],
  )
  await person.go(`/new-password/${token}`)
  await person.sees('For Remi Achterberg, user name r.achterberg.')
  expect(await person.axe()).toEqual([])
  await person.fill('New password', 'nine quiet lighthouses')
  await person.press('Enter')
  await person.sees('The password is changed.')
  await person.go(`/new-password/${token}`)
  await person.sees('This link no longer works')
  expect(await person.axe()).toEqual([])
  await person.signIn('r.achterberg', 'nine quiet lighthouses')
  await person.sees('Today')
  expect(person.complaints).toEqual([])
  await person.close()
})

test('a session left open elsewhere is found and signed out, by its owner and by an administrator', async () => {
  const sessions = async () =>
    (
      await app.rows(
        `select count(*)::int as n from auth.session s join auth."user" u on u.id = s."userId" where u.username = 'h.tulloch'`,
      )
    )[0]?.n as number
  const signIn = async () => {
    const person = await app.person()
    await person.signIn('h.tulloch')
    await person.go('/today')
    return person
  }
  await app.rows(
    `delete from auth.session where "userId" = (select id from auth."user" where username = 'h.tulloch')`,
  )
  const [own, lost] = [await signIn(), await signIn()]
  const open = async () => {
    await own.enterOn('Hana Tulloch')
    await own.sees('Where you are signed in')
    await own.page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role=menuitem]')]
        .find((item) => item.innerText === 'Where you are signed in')
        ?.click(),
    )
    await own.sees('this browser')
  }
  await open()
  expect(await own.axe()).toEqual([])
  expect(await sessions()).toBe(2)
  await own.enterOn('Sign out')
  await app.until(
    `select 1 where (select count(*) from auth.session s join auth."user" u on u.id = s."userId" where u.username = 'h.tulloch') = 1`,
  )
  await own.press('Escape')
  await lost.page.goto(`${app.running.url}/today`)
  await lost.sees('Forgotten your password')

  const admin = await app.signedIn('m.vester')
  const [staff] = await app.rows(
    "select id from staff_member where family_name = 'Tulloch' and given_name = 'Hana'",
  )
  await admin.go(`/school/staff/${String(staff?.id)}`)
  await admin.enterOn('Where they are signed in')
  await admin.sees('Signed in just now')
  expect(await admin.axe()).toEqual([])
  await admin.enterOn('Sign out')
  await app.until(
    `select 1 where not exists (select 1 from auth.session s join auth."user" u on u.id = s."userId" where u.username = 'h.tulloch')`,
  )
  for (const person of [own, lost, admin]) await person.close()
})

test('a second child takes over guardians, address and homeroom from a sister, and another guardian comes along', async () => {
  await office.go('/people/enrol')
  await office.fill('Legal given name', 'Birk')
  await office.fill('Legal family name', 'Okonjo-Marsh')
  await office.fill('Birth date', '3 Apr 2016')
  await office.fill('Brother or sister at the school', 'Okonjo-Marsh')
  await office.page.waitForSelector('[role=option]')
  await office.press('Enter')
  await office.page.waitForSelector('[aria-label="Take over"] button')
  for (const words of ['Take over Hana', 'Take over the address', 'Same homeroom'])
    await office.enterOn(words)
  await office.enterOn('Add another guardian')
  for (const [i, text] of [
    ['givenName', 'Ola'],
    ['familyName', 'Marsh'],
    ['relation', 'grandfather'],
  ] as const) {
    await office.page.focus('[name="guardians.1.' + i + '"]')
    await office.page.keyboard.type(text)
  }
  expect(await office.axe()).toEqual([])
  await office.enterOn('Enrol')
  await office.sees('On the lists of 7 Tern')
  expect(
    await app.rows(
      `select g.given_name as name, gs.contact_order as place,
              exists (select from guardianship o join student x on x.id = o.student_id
                       where o.guardian_id = g.id and x.sort_name = 'Okonjo-Marsh, Ilse') as known
         from guardianship gs join guardian g on g.id = gs.guardian_id join student s on s.id = gs.student_id
        where s.sort_name = 'Okonjo-Marsh, Birk' order by 2`,
    ),
  ).toEqual([
    { name: 'Hana', place: 1, known: true },
    { name: 'Bram', place: 2, known: true },
    { name: 'Ola', place: 3, known: false },
  ])
})
