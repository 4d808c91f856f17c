import { artifact, ink, margin, muted, openPaper, pageHeight, rule, textWidth } from '@/formats/pdf/paper'

interface DemoQuestion {
  readonly text: string
  readonly choices: readonly string[]
  readonly key: string
  readonly standard: string
  readonly page: number
}

/** Ten questions on how heat moves through water and ice; the key is CBDAACDBBA. */
export const heatAndIce: readonly DemoQuestion[] = [
  {
    text: 'A pan of sea water is heated from below. How does the heat reach the surface?',
    choices: [
      'By light alone',
      'Through the air',
      'Warm water rises and cool water sinks',
      'It does not reach it',
    ],
    key: 'C',
    standard: 'SCI.7.03',
    page: 1,
  },
  {
    text: 'Which spoon becomes hot first when it stands in hot soup?',
    choices: ['A wooden one', 'A steel one', 'A plastic one', 'All at the same time'],
    key: 'B',
    standard: 'SCI.7.03',
    page: 1,
  },
  {
    text: 'At what temperature does fresh water freeze?',
    choices: ['100 °C', '32 °C', '4 °C', '0 °C'],
    key: 'D',
    standard: 'SCI.7.01',
    page: 1,
  },
  {
    text: 'Why does ice float in the harbour?',
    choices: [
      'It is less dense than water',
      'It holds salt',
      'It is colder than water',
      'It is lighter than air',
    ],
    key: 'A',
    standard: 'SCI.7.02',
    page: 1,
  },
  {
    text: 'Sea water freezes at a lower temperature than fresh water because of its',
    choices: ['salt', 'colour', 'depth', 'waves'],
    key: 'A',
    standard: 'SCI.7.02',
    page: 2,
  },
  {
    text: 'While ice melts in a glass of water, the temperature of the mixture',
    choices: ['rises quickly', 'falls quickly', 'stays the same', 'rises and falls'],
    key: 'C',
    standard: 'SCI.7.01',
    page: 2,
  },
  {
    text: 'Which of these carries heat without any material between?',
    choices: ['Conduction', 'Convection', 'Mixing', 'Radiation'],
    key: 'D',
    standard: 'SCI.7.03',
    page: 2,
  },
  {
    text: 'The drawing shows two jars, one wrapped in wool. After an hour the wrapped jar is',
    choices: ['colder', 'warmer', 'empty', 'the same'],
    key: 'B',
    standard: 'SCI.7.03',
    page: 2,
  },
  {
    text: 'A lake keeps liquid water under its ice all winter. The water at the bottom is about',
    choices: ['0 °C', '4 °C', '10 °C', '-4 °C'],
    key: 'B',
    standard: 'SCI.7.02',
    page: 3,
  },
  {
    text: 'Which change needs heat to be taken in?',
    choices: ['Melting', 'Freezing', 'Condensing', 'Cooling'],
    key: 'A',
    standard: 'SCI.7.01',
    page: 3,
  },
]

/** The school's short framework for Year 7 science. */
export const scienceStandards: readonly (readonly [string, string])[] = [
  ['SCI.7.01', 'Describes changes of state and the temperatures at which they happen'],
  ['SCI.7.02', 'Explains floating and freezing by density and salt'],
  ['SCI.7.03', 'Explains how heat moves through water and ice'],
  ['SCI.8.01', 'Plans a fair test and names its variables'],
  ['SCI.8.02', 'Reads graphs of measurements and describes the trend'],
]

/** The test as a PDF of three pages, as a teacher would have it. */
export async function printTest(title: string, questions: readonly DemoQuestion[]): Promise<Buffer> {
  const doc = openPaper(title, 'en')
  const chunks: Buffer[] = []
  const ended = new Promise<void>((resolve, reject) => {
    doc.on('data', (c: Buffer) => chunks.push(c))
    doc.on('end', resolve)
    doc.on('error', reject)
  })
  const root = doc.struct('Document')
  doc.addStructure(root)
  const pages = Math.max(...questions.map((q) => q.page))
  for (let page = 1; page <= pages; page++) {
    doc.addPage()
    let y = margin
    if (page === 1) {
      root.add(
        doc.struct('H1', {}, () => {
          doc.font('bold').fontSize(22).fillColor(ink).text(title, margin, y)
        }),
      )
      root.add(
        doc.struct('P', {}, () => {
          doc
            .font('regular')
            .fontSize(11)
            .fillColor(muted)
            .text('Wrackline School, Science, Year 7. Choose one answer for each question.', margin, y + 34)
        }),
      )
      artifact(doc, () =>
        doc
          .moveTo(margin, y + 56)
          .lineTo(margin + textWidth, y + 56)
          .lineWidth(1)
          .strokeColor(rule)
          .stroke(),
      )
      y += 80
    }
    questions.forEach((q, i) => {
      if (q.page !== page) return
      root.add(
        doc.struct('P', {}, () => {
          doc
            .font('bold')
            .fontSize(12)
            .fillColor(ink)
            .text(`${i + 1}.  ${q.text}`, margin, y, { width: textWidth })
        }),
      )
      y = doc.y + 6
      q.choices.forEach((choice, c) => {
        root.add(
          doc.struct('P', {}, () => {
            doc
              .font('regular')
              .fontSize(12)
              .fillColor(ink)
              .text(`${'ABCDEFGHIJ'[c]}   ${choice}`, margin + 22, y, { width: textWidth - 22 })
          }),
        )
        y = doc.y + 4
      })
      y += 16
    })
    artifact(
      doc,
      () => {
        doc.page.margins.bottom = 0
        doc
          .font('regular')
          .fontSize(9)
          .fillColor(muted)
          .text(`Page ${page} of ${pages}`, margin, pageHeight - 40, {
            width: textWidth,
            align: 'right',
            lineBreak: false,
          })
      },
      'Pagination',
    )
  }
  root.end()
  doc.end()
  await ended
  return Buffer.concat(chunks)
}
