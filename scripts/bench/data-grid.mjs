// A general data grid with the same cells as a gradebook of 35 students and 120 assignments, and ten columns that are
// worked out from them: what typing in a gradebook is measured beside.
import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const read = (file) =>
  readFileSync(createRequire(import.meta.url).resolve(`tabulator-tables/dist/${file}`), 'utf8')

/** What runs in the page. */
function fill() {
  const pieces = Array.from({ length: 120 }, (_, i) => `p${i}`)
  const means = Array.from({ length: 10 }, (_, i) => `m${i}`)
  const meansOf = (row) =>
    Object.fromEntries(
      means.map((m, i) => {
        const own = pieces.slice(i * 12, i * 12 + 12)
        return [m, (own.reduce((sum, p) => sum + Number(row[p]), 0) / own.length).toFixed(1)]
      }),
    )
  const rows = Array.from({ length: 35 }, (_, s) => {
    const row = { id: s, name: `Student ${s}`, ...Object.fromEntries(pieces.map((p) => [p, 12])) }
    return { ...row, ...meansOf(row) }
  })
  const table = new window.Tabulator('#grid', {
    data: rows,
    height: 600,
    renderHorizontal: 'virtual',
    editTriggerEvent: 'focus',
    columns: [
      { title: 'Student', field: 'name', frozen: true, width: 200 },
      ...pieces.map((field) => ({ title: field, field, width: 76, editor: 'input' })),
      ...means.map((field) => ({ title: field, field, width: 76 })),
    ],
  })
  table.on('cellEdited', (cell) => void cell.getRow().update(meansOf(cell.getRow().getData())))
  table.on('tableBuilt', () => table.getRows()[0].getCell('p0').edit())
}

/** Writes the page and answers where it is. */
export function dataGridPage(file) {
  writeFileSync(
    file,
    `<!doctype html><style>${read('css/tabulator.min.css')}</style><div id="grid"></div>
     <script>${read('js/tabulator.min.js')}</script><script>(${fill})()</script>`,
  )
  return `file://${file}`
}
