import { readdirSync, readFileSync } from 'node:fs'
import { createTransport } from 'nodemailer'
import { simpleParser } from 'mailparser'
import type { Certificate } from '@/core/attendance/certificate'
import { limits } from '@/core/limits'
import type { CardContents } from '@/core/reports/card'
import { named } from '@/core/inputs'
import { printCertificate } from '@/formats/pdf/certificate'
import { charactersWithoutFont } from '@/formats/pdf/fonts'
import { printCards } from '@/formats/pdf/report-card'
import type { AnyMail } from '@/server/platform/define'
import { exampleCard } from '../example-card'
import { openSchool, type TestSchool } from './school'

// The longest and the strangest names in every mail and every document: nothing is lost, cut or taken for something else.
const asTyped = [
  'A'.repeat(limits.personName),
  'Wolfeschlegelsteinhausenbergerdorffwelchevoralternwarengewissenhaftschaferswesse',
  'Ȩ́́́lodie Zoë-Ānne D’Aubigné O‘Connor',
  'Ngũgĩ wa Thiong’o',
  'Ивана Кузнецова',
  'Αθηνά Παπαδοπούλου',
  '  Two   blanks  ',
  'Tab\tand\r\nBcc: everybody@elsewhere.example',
  '<b>Ilse</b> & "Tobias"',
  '=HYPERLINK("x")',
  '{{name}} ${name} %s \\n',
  'von der \u202Eegna\u202C Stadt',
  'constructor',
  'null',
]
/** As they are saved: what cannot stand in a name is gone. */
const names = asTyped.map((typed) => named('the name', limits.personName).parse(typed))

let school: TestSchool
let mails: ReadonlyMap<string, AnyMail>
beforeAll(async () => {
  school = await openSchool('empty')
  ;({ mails } = await import('@/server/registry'))
})
afterAll(() => school.close())

/** An example with every text in it made another; addresses, dates and what is one of a few stay. */
const withName = (example: object, name: string): object =>
  Object.fromEntries(
    Object.entries(example).map(([key, value]: [string, unknown]) => [
      key,
      typeof value === 'string' && /[A-Z].* /.test(value) && !/\n|^\d{4}-|:\/\/|@/.test(value) ? name : value,
    ]),
  )

test('there are mails, and names that are strange', () => {
  expect(mails.size).toBeGreaterThan(5)
  expect(names.every((name) => name.length > 0 && !/[\r\n\t\u202a-\u202e]/.test(name))).toBe(true)
})

test('in every mail', async () => {
  const transport = createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
  for (const [kind, mail] of mails)
    for (const name of names) {
      const about = withName(mail.example as object, name)
      const link = 'https://kedge.wrackline.example/link'
      const subject = mail.subject(about)
      const text = mail.body(about, link)
      const said = `${kind}: ${subject}\n${text}`
      expect(subject).not.toMatch(/[\r\n]|undefined|\[object/)
      expect(text).not.toMatch(/undefined|\[object/)
      if (Object.values(about).includes(name)) expect(said).toContain(name)
      const { message } = await transport.sendMail({
        from: { name: 'Wrackline School', address: 'office@wrackline.example' },
        to: { name, address: 'hana.marsh@islandmail.example' },
        subject,
        text,
      })
      const read = await simpleParser(message as Buffer)
      const [to] = [read.to].flat()
      // Whoever it goes to, and nobody else, whatever the name says.
      expect(to?.value.map((v) => v.address)).toEqual(['hana.marsh@islandmail.example'])
      expect([read.cc, read.bcc]).toEqual([undefined, undefined])
      // A very long line of a head may be folded between its words.
      expect(read.subject?.replace(/\s+/g, ' ')).toBe(subject.replace(/\s+/g, ' '))
      expect(read.text?.trim().replace(/\r\n/g, '\n')).toBe(text.trim())
    }
})

const card = (name: string): CardContents => ({
  school: name,

  round: name,
  year: '2026/27',
  term: name,
  student: { id: '1', name, number: 412, yearGroup: name, homeroom: name },
  homeroomTeacher: name,
  lines: Array.from({ length: 3 }, () => ({
    subject: name,
    className: name,
    teacher: `${name}, ${name}`,
    mark: '83.3',
    grade: 'B',
    effort: 'good',
    comment: `${name} works steadily. `.repeat(4),
    checked: true,
  })),
  ...exampleCard,
  toFollow: [name],
})

const certificate = (name: string): Certificate => ({
  school: name,
  schoolAddress: name,
  student: name,
  number: 412,
  birthDate: '2014-05-01',
  yearGroup: name,
  homeroom: name,
  from: '2026-09-01',
  to: '2026-11-23',
  figures: exampleCard.attendance,
  issuedOn: '2026-11-23',
  issuedBy: name,
})

const documents: Readonly<Record<string, (name: string) => Promise<Buffer>>> = {
  'certificate.ts': (name) => printCertificate(certificate(name)),
  'report-card.ts': async (name) => (await printCards([card(name)])).bytes,
}

test('every document that is printed is looked at', () => {
  const folder = 'src/formats/pdf'
  const printing = readdirSync(folder).filter(
    (file) =>
      !file.includes('.test.') &&
      /export async function print/.test(readFileSync(`${folder}/${file}`, 'utf8')),
  )
  expect(printing).toEqual(Object.keys(documents))
})

test.each(Object.keys(documents))('in every document: %s', async (file) => {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs')
  for (const name of names) {
    const bytes = await documents[file]?.(name)
    const pdf = await getDocument({ data: Uint8Array.from(bytes ?? []), verbosity: 0 }).promise
    let text = ''
    for (let n = 1; n <= pdf.numPages; n++) {
      const page = await pdf.getPage(n)
      const [, , width = 0, height = 0] = page.view
      for (const item of (await page.getTextContent()).items) {
        if (!('str' in item) || item.str.trim() === '') continue
        text += item.str
        const [x = 0, y = 0] = (item.transform as number[]).slice(4)
        // Nothing runs off the paper.
        expect(x).toBeGreaterThanOrEqual(30)
        expect(x + item.width).toBeLessThanOrEqual(width - 30)
        expect(y).toBeGreaterThanOrEqual(20)
        expect(y).toBeLessThanOrEqual(height - 20)
      }
    }
    expect(pdf.numPages).toBeLessThanOrEqual(4)
    // What no font has is reported before cards are released; everything else is there, however it was broken.
    const letters = (words: string) => words.normalize('NFC').replace(/[\s\u00ad-]/g, '')
    if (charactersWithoutFont(name) === '') expect(letters(text)).toContain(letters(name))
  }
})
