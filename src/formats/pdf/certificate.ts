import type { Certificate } from '@/core/attendance/certificate'
import { shortDate } from '@/core/calendar/date-words'
import { ink, margin, muted, Paper, textWidth, type Style } from './paper'

const school: Style = { font: 'bold', size: 11, colour: ink }
const title: Style = { font: 'bold', size: 22, colour: ink }
const body: Style = { font: 'regular', size: 11, colour: ink }
const strong: Style = { font: 'bold', size: 11, colour: ink }
const quiet: Style = { font: 'regular', size: 9, colour: muted }
const line = 15

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
  let top = from
  paper.within('Table', () =>
    rows.forEach(([label, value]) => {
      const lines = paper.wrapped(value, textWidth - apart, values)
      const at = top
      paper.within('TR', () => {
        paper.cell('TH', () => paper.write(label, margin, at, labels), { scope: 'Row' })
        paper.cell('TD', () => paper.lines(lines, margin + apart, at, line, values))
      })
      top += lines.length * line + 4
    }),
  )
  return top
}

/** Prints a certificate of attendance on one tagged A4 page. */
export async function printCertificate(certificate: Certificate): Promise<Buffer> {
  const paper = new Paper(`Certificate of attendance, ${certificate.student}`, 'en')
  paper.part(certificate.student, () => {
    paper.doc.addPage()
    let top = margin
    /** A text of one or more lines; what follows stands under it. */
    const write = (tag: string, text: string, step: number, style: Style) => {
      const lines = paper.wrapped(text, textWidth, style)
      paper.tag(tag, () => paper.lines(lines, margin, top, step, style))
      top += lines.length * step
    }
    write('P', certificate.school, line, school)
    if (certificate.schoolAddress) write('P', certificate.schoolAddress, line, body)
    paper.line(top + 5, 1, ink)
    top += 25
    write('H1', 'Certificate of attendance', 28, title)
    top += 12
    write('P', certificate.student, 21, { ...title, size: 16 })
    top += 13
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
    top += 6
    const issued = `Issued by ${certificate.issuedBy}, ${shortDate(certificate.issuedOn, true)}. Signature and stamp`
    write('P', issued, 12, quiet)
  })
  return paper.end()
}
