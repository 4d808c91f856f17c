import sharp from 'sharp'
import { unzipSync } from 'fflate'
import { docx, paragraph, picture, table } from '../files/docx'
import { inspectPdf } from '@/formats/pdf/inspect'
import { seeded } from '@/demo/random'
import { drawPages, readDocx } from '@/formats/docx/convert'
import { unpack, Unreadable } from '@/formats/docx/unpack'

const square = (format: 'png' | 'jpeg', edge = 40) =>
  sharp({ create: { width: edge, height: edge, channels: 3, background: '#14304a' } })
    .toFormat(format)
    .toBuffer()

const labels = (html: string) =>
  [...html.matchAll(/\uE000(\d)\uE001(.*?)\uE002([^<]*)/g)].map(([, ...m]) => m.join('|'))

test('numbers and letters of lists are those that are printed, also where a list goes on after something else', async () => {
  const { html } = await readDocx(
    docx(
      paragraph('Which freezes first?', { list: 1 }) +
        paragraph('Fresh water', { list: 1, level: 1 }) +
        paragraph('Salt water', { list: 1, level: 1 }) +
        paragraph('Look at the table.') +
        paragraph('Which melts first?', { list: 1 }) +
        paragraph('Ice &amp; salt &lt; 0', { list: 1, level: 1 }),
    ),
  )
  expect(labels(html)).toEqual([
    '0|1.|Which freezes first?',
    '1|A)|Fresh water',
    '1|B)|Salt water',
    '0|2.|Which melts first?',
    '1|A)|Ice &amp; salt &lt; 0',
  ])
})

test('text, tables and pictures become pages', async () => {
  const made = await readDocx(
    docx(
      paragraph('Heat and ice', { look: '<w:b/>' }) +
        table([
          ['Metal', 'Melts at'],
          ['Iron', '1538 °C'],
        ]) +
        picture('p1') +
        Array.from({ length: 90 }, (_, i) => paragraph(`Line ${i} ⚓ ≤ ½`, { list: 1 })).join(''),
      { pictures: { 'a.png': await square('png') } },
    ),
  )
  expect(made.html).toContain('<strong>Heat and ice</strong>')
  expect(made.pictures).toMatchObject([{ width: 40, height: 40 }])
  const pdf = await inspectPdf(await drawPages(made))
  expect(pdf.ok && pdf.pageCount).toBeGreaterThan(1)
})

test('nothing outside of the file is read, and macros are not in what is read on', async () => {
  const bytes = docx(paragraph('Tides') + picture('l1', 'link') + picture('l1'), {
    links: { l1: 'file:///etc/passwd' },
    more: { 'word/vbaProject.bin': new Uint8Array([1, 2, 3]) },
  })
  expect(Object.keys(unzipSync(bytes))).toContain('word/vbaProject.bin')
  expect(Object.keys(unpack(bytes))).not.toContain('word/vbaProject.bin')
  const read = await readDocx(bytes).catch((error: Error) => error)
  if (read instanceof Error) expect(read).toBeInstanceOf(Unreadable)
  else expect(JSON.stringify(read)).not.toContain('root:')
})

test('what is left out is named', async () => {
  const { leftOut } = await readDocx(docx(`${paragraph('x')}<w:p><m:oMath><m:r/></m:oMath></w:p>`))
  expect(leftOut).toEqual(['formulas'])
})

test.each([
  ['another file', Buffer.from('not a zip'), 'damaged'],
  ['a zip of something else', docx('').slice(0, 40), 'damaged'],
  [
    'one that unpacks into more than a file would',
    docx('', { more: { 'word/large.xml': new Uint8Array(130 * 1024 * 1024) } }),
    'too large',
  ],
  [
    'one of very many parts',
    docx('', {
      more: Object.fromEntries(Array.from({ length: 4100 }, (_, i) => [`x/${i}`, new Uint8Array()])),
    }),
    'too many parts',
  ],
])('%s is refused', (_, bytes, why) => {
  expect(() => unpack(bytes)).toThrow(why)
})

test('ten thousand damaged files are read or refused', async () => {
  const random = seeded(20261201)
  const whole = docx(paragraph('Which freezes first?', { list: 1 }) + table([['a', 'b']]) + picture('p1'), {
    pictures: { 'a.png': await square('png', 8) },
  })
  let readable = 0
  for (let i = 0; i < 10_000; i++) {
    const bytes = Uint8Array.from(whole)
    const changes = 1 + random.below(6)
    for (let n = 0; n < changes; n++) bytes[random.below(bytes.length)] = random.below(256)
    const cut = random.below(4) === 0 ? random.below(bytes.length) : bytes.length
    try {
      await readDocx(bytes.subarray(0, cut))
      readable++
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error
    }
  }
  expect(readable).toBeGreaterThan(0)
  expect(readable).toBeLessThan(10_000)
}, 240_000)
