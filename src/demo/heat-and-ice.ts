import { ink, margin, muted, pageHeight, Paper, rule, textWidth, type Style } from '@/formats/pdf/paper'

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

const heading: Style = { font: 'bold', size: 22, colour: ink }
const task: Style = { font: 'regular', size: 11, colour: muted }
const asked: Style = { font: 'bold', size: 12, colour: ink }
const choice: Style = { font: 'regular', size: 12, colour: ink }
const foot: Style = { font: 'regular', size: 9, colour: muted }

/** The test as a PDF of three pages, as a teacher would have it. */
export async function printTest(title: string, questions: readonly DemoQuestion[]): Promise<Buffer> {
  const paper = new Paper(title, 'en')
  const { doc } = paper
  const pages = Math.max(...questions.map((q) => q.page))
  let y = margin
  const write = (text: string, left: number, style: Style, gap: number) => {
    paper.tag('P', () => paper.use(style).text(text, left, y, { width: margin + textWidth - left }))
    y = doc.y + gap
  }
  for (let page = 1; page <= pages; page++) {
    doc.addPage()
    y = margin
    if (page === 1) {
      paper.tag('H1', () => paper.write(title, margin, y, heading))
      y += 34
      write('Wrackline School, Science, Year 7. Choose one answer for each question.', margin, task, 0)
      paper.line(margin + 56, 1, rule)
      y = margin + 80
    }
    questions.forEach((q, i) => {
      if (q.page !== page) return
      write(`${i + 1}.  ${q.text}`, margin, asked, 6)
      q.choices.forEach((text, c) => write(`${'ABCDEFGHIJ'[c]}   ${text}`, margin + 22, choice, 4))
      y += 16
    })
    paper.artifact(() => {
      doc.page.margins.bottom = 0
      paper.writeTo(`Page ${page} of ${pages}`, margin + textWidth, pageHeight - 40, foot)
    }, 'Pagination')
  }
  return paper.end()
}
