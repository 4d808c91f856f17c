import type { CardContents } from '@/core/reports/card'
import { exampleCard } from '@tests/example-card'
import { inspectPdf } from './inspect'
import { printCards } from './report-card'

const card = (name: string, lines: number, over: Partial<CardContents> = {}): CardContents => ({
  school: 'Wrackline School',
  round: 'Autumn report, Year 7',
  year: '2026/27',
  term: 'Autumn',
  student: { id: name, name, number: 412, yearGroup: 'Year 7', homeroom: '7 Tern' },
  homeroomTeacher: 'Remi Achterberg',
  lines: Array.from({ length: lines }, (_, i) => ({
    subject: `Subject ${i + 1}`,
    className: '',
    teacher: 'Remi Achterberg',
    mark: '83.3',
    grade: 'B',
    effort: 'good',
    comment: 'Works steadily and asks good questions. '.repeat(4),
    checked: true,
  })),
  ...exampleCard,
  ...over,
})

/** Every page's text, whether the file is tagged, and the tags of one page. */
async function textOf(bytes: Buffer, tagsOfPage = 1) {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs')
  const pdf = await getDocument({ data: Uint8Array.from(bytes), verbosity: 0 }).promise
  const pages: string[] = []
  for (let n = 1; n <= pdf.numPages; n++)
    pages.push(
      (await (await pdf.getPage(n)).getTextContent()).items
        .map((i) => ('str' in i ? i.str : ''))
        .join(' ')
        .replace(/\s+/g, ' ')
        .trim(),
    )
  const tagged = (await pdf.getMarkInfo()) as { Marked?: boolean } | null
  const tree = JSON.stringify(await (await pdf.getPage(tagsOfPage)).getStructTree())
  return { pages, tagged: tagged?.Marked ?? false, tree }
}

interface Tag {
  readonly role?: string
  readonly id?: string
  readonly children?: readonly Tag[]
}

type Rows = readonly (readonly string[])[]

/**
 * The tables of a document as its tags say them: rows of cells, each with its kind and the text that belongs to it. The
 * text is read glyph by glyph, with the blanks at the ends of lines.
 */
async function tablesOf(bytes: Buffer): Promise<readonly Rows[]> {
  const { getDocument, OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs')
  const pdf = await getDocument({ data: Uint8Array.from(bytes), verbosity: 0 }).promise
  const said = new Map<string, string>()
  const trees: Tag[] = []
  for (let n = 1; n <= pdf.numPages; n++) {
    const page = await pdf.getPage(n)
    const { fnArray, argsArray } = await page.getOperatorList()
    let at = ''
    fnArray.forEach((operator, i) => {
      const args = argsArray[i] as readonly unknown[] | null
      if (operator === OPS.beginMarkedContentProps) at = `p${page.ref?.num}R_mc${String(args?.[1])}`
      else if (operator === OPS.endMarkedContent) at = ''
      else if (operator === OPS.showText) {
        const glyphs = (args?.[0] ?? []) as readonly (number | { readonly unicode: string })[]
        const text = glyphs.map((g) => (typeof g === 'number' ? '' : g.unicode)).join('')
        said.set(at, (said.get(at) ?? '') + text)
      }
    })
    trees.push((await page.getStructTree()) as Tag)
  }
  const textIn = (tag: Tag): string =>
    (tag.id === undefined ? '' : (said.get(tag.id) ?? '')) + (tag.children ?? []).map(textIn).join('')
  const tables = new Map<string, Rows>()
  const walk = (tag: Tag): void => {
    if (tag.role !== 'Table') return void tag.children?.forEach(walk)
    const rows = (tag.children ?? []).map((row) =>
      (row.children ?? []).map((cell) => `${cell.role} ${textIn(cell).trimEnd()}`),
    )
    // A table on several pages hangs in the tree of each.
    tables.set(JSON.stringify(rows), rows)
  }
  trees.forEach(walk)
  return [...tables.values()]
}

describe('report cards', () => {
  test('each begins on a new sheet: after an odd number of pages an empty one follows', async () => {
    const { bytes, pageCount } = await printCards([
      card('Ilse Okonjo-Marsh', 2),
      card('Tobias Abara', 14),
      card('Pip Eisele', 1),
    ])
    const { pages } = await textOf(bytes)
    const begins = (name: string) => pages.findIndex((p) => p.includes(name))
    expect(pages).toHaveLength(pageCount)
    expect([begins('Ilse Okonjo-Marsh'), begins('Tobias Abara') % 2, begins('Pip Eisele') % 2]).toEqual([
      0, 0, 0,
    ])
    expect(pages[1]).toBe('')
    expect(pages.at(-1)).toContain('page 1 of 1')
  })
  test('carries further lines of the report beside the teacher, and none that is empty', async () => {
    const [line] = card('Ilse Okonjo-Marsh', 1).lines
    if (!line) throw new Error('the card has a subject')
    const more = [
      { name: 'Target', value: 'A' },
      { name: 'Reading', value: '' },
    ]
    const { bytes } = await printCards([card('Ilse Okonjo-Marsh', 1, { lines: [{ ...line, more }] })])
    const { pages } = await textOf(bytes)
    expect(pages[0]).toContain('Remi Achterberg. Target: A')
    expect(pages[0]).not.toContain('Reading')
  })
  test('carries school, term, mark, grade, effort, attendance and page numbers', async () => {
    const { bytes } = await printCards([card('Ilse Okonjo-Marsh', 1)])
    const { pages } = await textOf(bytes)
    for (const words of [
      'Wrackline School',
      'Autumn, 2026/27',
      '83.3',
      'B',
      'good',
      '102, 96.2%',
      'page 1 of 1',
      'A from 90',
      'E below',
    ])
      expect(pages[0]).toContain(words)
    expect(pages[0]).not.toContain('not final')
  })
  test('is tagged for screen readers and embeds its typeface', async () => {
    const { bytes } = await printCards([card('Ilse Okonjo-Marsh', 1)])
    const { tagged, tree } = await textOf(bytes)
    expect(tagged).toBe(true)
    for (const role of ['H1', 'H2', 'Table', 'TH', 'TD']) expect(tree).toContain(`"${role}"`)
    expect(bytes.toString('latin1')).toMatch(/AtkinsonHyperlegibleNext/)
    expect(bytes.toString('latin1')).toMatch(/\/FontFile2/)
    expect(bytes.toString('latin1')).toMatch(/\/Lang \(en\)/)
  })
  test('every card of many keeps its tags', async () => {
    const { bytes } = await printCards([card('A', 1), card('B', 1), card('C', 3)])
    const { tree } = await textOf(bytes, 5)
    for (const role of ['H1', 'H2', 'Table', 'TH', 'TD']) expect(tree).toContain(`"${role}"`)
  })
  test('results are a table with heads, read cell by cell, over all its pages', async () => {
    const one = card('C', 9)
    const lines = one.lines.map((line, i) => (i === 1 ? { ...line, mark: undefined } : line))
    const { bytes, pageCount } = await printCards([{ ...one, lines }])
    const [, results] = await tablesOf(bytes)
    expect(pageCount).toBe(2)
    expect(results?.[0]).toEqual(['TH Subject', 'TH Mark', 'TH Grade', 'TH Effort'])
    expect(results).toHaveLength(1 + 2 * 9)
    expect(results?.[1]).toEqual(['TH Subject 1', 'TD 83.3', 'TD B', 'TD good'])
    // Lines of a comment do not run into each other.
    expect(results?.[2]).toEqual([
      `TD Remi Achterberg ${'Works steadily and asks good questions. '.repeat(4).trim()}`,
    ])
    const raw = bytes.toString('latin1')
    expect(raw.match(/\/Scope \/Row/g)).toHaveLength(9)
    expect(raw.match(/\/Scope \/Column/g)).toHaveLength(5 + 4)
    expect(raw.match(/\/ActualText \(not entered\)/g)).toHaveLength(1)
    // The heads are drawn on the second page, too.
    expect((await textOf(bytes)).pages[1]).toMatch(/^C, .*Subject Mark Grade Effort Subject \d/)
  })
  test('the figures of a certificate are apart from their names', async () => {
    const { printCertificate } = await import('./certificate')
    const bytes = await printCertificate({
      school: 'Wrackline School',
      schoolAddress: '1 Harbour Road, Wrackline',
      student: 'Ilse Okonjo-Marsh',
      number: 412,
      birthDate: '2014-03-05',
      yearGroup: 'Year 7',
      homeroom: '7 Tern',
      from: '2026-09-01',
      to: '2026-11-23',
      figures: card('A', 0).attendance,
      issuedBy: 'Ewan Leask',
      issuedOn: '2026-11-23',
    } as Parameters<typeof printCertificate>[0])
    const [facts, figures] = await tablesOf(bytes)
    expect(facts?.[0]).toEqual(['TH Student number', 'TD 0412'])
    expect(figures?.[1]).toEqual(['TH Present', 'TD 102, 96.2%'])
  })
  test('says "not final" until it is, names what is to follow, and which issue it is', async () => {
    const { pages } = await textOf(
      (
        await printCards([
          card('Ilse Okonjo-Marsh', 1, { final: false, toFollow: ['English', 'Art'], issue: 2 }),
        ])
      ).bytes,
    )
    for (const words of ['not final', 'Still to follow: English, Art.', 'version 2'])
      expect(pages[0]).toContain(words)
  })
  test('a long card runs over pages without losing a line', async () => {
    const { bytes, pageCount } = await printCards([card('Tobias Abara', 30)])
    const { pages } = await textOf(bytes)
    expect(pageCount).toBeGreaterThan(2)
    for (let n = 1; n <= 30; n++) expect(pages.join(' ')).toContain(`Subject ${n} `)
    pages.forEach((p, i) => expect(p).toContain(`page ${i + 1} of ${pageCount}`))
  })
  test('tells how far it is and stops when asked', async () => {
    const seen: number[] = []
    const printed = await printCards([card('A', 1), card('B', 1), card('C', 1)], async (n) => {
      seen.push(n)
      return n === 2 ? 'stop' : 'go on'
    })
    expect(seen).toEqual([1, 2])
    expect(printed.stopped).toBe(true)
  })
})

describe('an uploaded file', () => {
  test('a PDF is one, with its pages', async () => {
    expect(await inspectPdf((await printCards([card('A', 1), card('B', 1)])).bytes)).toEqual({
      ok: true,
      pageCount: 3,
    })
  })
  test('a file only named .pdf is none', async () => {
    expect(await inspectPdf(Buffer.from('<html><script>alert(1)</script>'))).toMatchObject({
      ok: false,
      problem: expect.stringContaining('is not a PDF'),
    })
    expect(await inspectPdf(Buffer.alloc(0))).toMatchObject({
      ok: false,
      problem: expect.stringContaining('is empty'),
    })
  })
  test('a PDF that is cut off is damaged', async () => {
    const { bytes: whole } = await printCards([card('A', 1)])
    expect(await inspectPdf(whole.subarray(0, 600))).toMatchObject({
      ok: false,
      problem: expect.stringContaining('is damaged'),
    })
  })
  test('a PDF with a password says so', async () => {
    const { default: PDFDocument } = await import('pdfkit')
    const doc = new PDFDocument({ userPassword: 'kelp' })
    const chunks: Buffer[] = []
    doc.on('data', (c: Buffer) => chunks.push(c))
    const ended = new Promise((resolve) => doc.on('end', resolve))
    doc.text('secret')
    doc.end()
    await ended
    expect(await inspectPdf(Buffer.concat(chunks))).toMatchObject({
      ok: false,
      problem: expect.stringContaining('locked with a password'),
    })
  })
  test('one that takes too long to read is refused, and holds up nobody else meanwhile', async () => {
    const line = '1 0 obj\n<< /Type /Page /A 1 >>\nendobj\n'
    const bytes = Buffer.from('%PDF-1.7\n' + line.repeat(Math.floor((12 * 1048576) / line.length)))
    let beats = 0
    const timer = setInterval(() => beats++, 20)
    const inspected = await inspectPdf(bytes)
    clearInterval(timer)
    expect(inspected).toMatchObject({ ok: false, problem: expect.stringContaining('is damaged') })
    // Read in this process it would have been silent until the end.
    expect(beats).toBeGreaterThan(5)
  })
})

describe('letters that the main typeface lacks', () => {
  const textOf = async (bytes: Buffer) => {
    const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs')
    const pdf = await getDocument({ data: Uint8Array.from(bytes), verbosity: 0 }).promise
    const { items } = await (await pdf.getPage(1)).getTextContent()
    return items.map((item) => ('str' in item ? item.str : '')).join('')
  }
  test('are on the card, in the order in which they were written', async () => {
    const one = card('Юлия Σοφία Nguyễn', 1)
    const { bytes } = await printCards([
      { ...one, lines: one.lines.map((l) => ({ ...l, comment: 'Reads ≥ 20 pages → good. ✓ Đặng' })) },
    ])
    const text = (await textOf(bytes)).replace(/\s+/g, ' ')
    expect(text).toContain('Юлия Σοφία Nguyễn')
    expect(text).toContain('Reads ≥ 20 pages → good. ✓ Đặng')
  })
  test('that no font has are found; everything that is printed is not', async () => {
    const { charactersWithoutFont, runsOf } = await import('./fonts')
    expect(charactersWithoutFont('Plain, ştar, Юлия, λ → ✓')).toBe('')
    expect(charactersWithoutFont('中文 and 中\n')).toBe('中 文')
    const text = 'Юлия reads λ → ✓ well'
    expect(
      runsOf(text)
        .map((run) => run.text)
        .join(''),
    ).toBe(text)
    expect(runsOf('Ilse Okonjo-Marsh')).toEqual([{ family: 'main', text: 'Ilse Okonjo-Marsh' }])
  })
})
