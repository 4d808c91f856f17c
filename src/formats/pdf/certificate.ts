import type { Certificate } from '@/core/attendance/certificate'
import { shortDate } from '@/core/calendar/date-words'
import { ink, margin, muted, Paper, textWidth, type Style } from './paper'

const school: Style = { font: 'bold', size: 11, colour: ink }
const title: Style = { font: 'bold', size: 22, colour: ink }
const body: Style = { font: 'regular', size: 11, colour: ink }
const strong: Style = { font: 'bold', size: 11, colour: ink }
const quiet: Style = { font: 'regular', size: 9, colour: muted }

/** The lines of a certificate: what, and how much. */
const linesOf = ({ figures: f }: Certificate): readonly (readonly [string, string])[] => [
  ['Possible half-days', String(f.possible)],
  ['Present', f.percentPresent === undefined ? '–' : `${f.present}, ${f.percentPresent}%`],
  ['of them late', String(f.late)],
  ['of them educated elsewhere', String(f.elsewhere)],
  ['Absent with reason', String(f.withReason)],
  ['Absent, no reason yet', String(f.withoutReason)],
  ['Not marked', String(f.unmarked)],
]

const factsOf = (c: Certificate): readonly (readonly [string, string])[] => [
  ...(c.number === null ? [] : [['Student number', String(c.number).padStart(4, '0')] as const]),
  ...(c.birthDate === null ? [] : [['Date of birth', shortDate(c.birthDate, true)] as const]),
  ...(c.yearGroup === null ? [] : [['Year group', c.yearGroup] as const]),
  ...(c.homeroom === null ? [] : [['Homeroom', c.homeroom] as const]),
  ['Period', `${shortDate(c.from, true)} to ${shortDate(c.to, true)}`],
]

/** A table of two columns, what and how much, so that the two are read apart. Answers where it ends. */
function pairs(
  paper: Paper,
  rows: readonly (readonly [string, string])[],
  from: number,
  apart: number,
  labels: Style,
  values: Style,
): number {
  paper.within('Table', () =>
    rows.forEach(([label, value], i) =>
      paper.within('TR', () => {
        paper.cell('TH', () => paper.write(label, margin, from + i * 19, labels), { scope: 'Row' })
        paper.cell('TD', () => paper.write(value, margin + apart, from + i * 19, values))
      }),
    ),
  )
  return from + rows.length * 19
}

/** Prints a certificate of attendance on one tagged A4 page. */
export async function printCertificate(certificate: Certificate): Promise<Buffer> {
  const paper = new Paper(`Certificate of attendance, ${certificate.student}`, 'en')
  paper.part(certificate.student, () => {
    paper.doc.addPage()
    let top = margin
    paper.tag('P', () => paper.write(certificate.school, margin, top, school))
    paper.line(top + 20, 1, ink)
    top += 40
    paper.tag('H1', () => paper.writeWithin('Certificate of attendance', margin, top, textWidth, title))
    top += 40
    paper.tag('P', () =>
      paper.writeWithin(certificate.student, margin, top, textWidth, { ...title, size: 16 }),
    )
    top += 34
    top = pairs(paper, factsOf(certificate), top, 170, { ...body, colour: muted }, body)
    top += 16
    paper.tag('H2', () => paper.write('Attendance', margin, top, strong))
    paper.line(top + 18, 0.7, ink)
    top += 28
    top = pairs(paper, linesOf(certificate), top, 250, body, strong)
    top += 14
    for (const words of [
      'A half-day is a morning or an afternoon of a school day. Late and educated elsewhere count as present.',
      'Half-days that have not been marked, and those on which the student was not expected, are not counted.',
    ]) {
      paper.tag('P', () => paper.write(words, margin, top, quiet))
      top += 13
    }
    top += 60
    paper.line(top, 0.7, ink)
    paper.tag('P', () =>
      paper.write(
        `Issued by ${certificate.issuedBy}, ${shortDate(certificate.issuedOn, true)}. Signature and stamp`,
        margin,
        top + 6,
        quiet,
      ),
    )
  })
  return paper.end()
}
