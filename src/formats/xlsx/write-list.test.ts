import exceljs from 'exceljs'
import { xlsxOf, type ListValue } from './write-list'

async function sheetOf(
  header: readonly string[],
  rows: readonly (readonly ListValue[])[],
  name = 'Students',
) {
  const { buffer: bytes } = await xlsxOf(name, header, rows)
  const book = new exceljs.Workbook()
  await book.xlsx.load(bytes)
  const sheet = book.worksheets[0]
  if (!sheet) throw new Error('no sheet')
  return sheet
}

test('numbers are numbers, dates real dates, and a text that looks like a formula stays a text', async () => {
  const sheet = await sheetOf(
    ['Name', 'Number', 'Since'],
    [
      ['Okonjo-Marsh, Ilse', 420, '2026-10-05'],
      ['=1+1', -3, null],
      ['+47 000', 0.5, '2026-13-45x'],
    ],
  )
  expect(sheet.getCell('A2').value).toBe('Okonjo-Marsh, Ilse')
  expect(sheet.getCell('B2').value).toBe(420)
  expect(sheet.getCell('C2').value).toEqual(new Date('2026-10-05T00:00:00Z'))
  expect(sheet.getCell('C2').numFmt).toBe('yyyy-mm-dd')
  expect(sheet.getCell('A3').value).toBe('=1+1')
  expect(sheet.getCell('A3').formula).toBeUndefined()
  expect(sheet.getCell('B3').value).toBe(-3)
  expect(sheet.getCell('C3').value).toBeNull()
  expect(sheet.getCell('A4').value).toBe('+47 000')
})

test('the header stays in view, and a name that no sheet can have is made one', async () => {
  const sheet = await sheetOf(['Name'], [['Ilse']], 'a/b: [classes] ?*')
  expect(sheet.views[0]).toMatchObject({ state: 'frozen', ySplit: 1 })
  expect(sheet.getRow(1).font.bold).toBe(true)
  expect(sheet.name).toBe('a b   classes')
})

test('a list of 100,000 cells holds up nobody for long', async () => {
  const rows = Array.from({ length: 1000 }, (_, i) => Array.from({ length: 100 }, (_, j) => `${i} ${j}`))
  let turns = 0
  const ticking = setInterval(() => turns++, 5)
  await xlsxOf('Wide', Array(100).fill('x'), rows)
  clearInterval(ticking)
  // Counted in turns that others had meanwhile, which a slow machine gives as well.
  expect(turns).toBeGreaterThan(5)
})

test('a long list is whole', async () => {
  const rows = Array.from({ length: 5000 }, (_, i) => [`Student ${i}`, i])
  const sheet = await sheetOf(['Name', 'Number'], rows)
  expect(sheet.rowCount).toBe(5001)
  expect(sheet.getCell('B5001').value).toBe(4999)
})
