// How soon the first page of a test of 30 pages stands beside its key, from opening the page: against the same page
// without a document.
import PDFDocument from 'pdfkit'
import { signInPage } from '../lib/chromium.mjs'
import { at, ms, row } from './table.mjs'

const passes = 8

/** A test of so many pages, with text on each. */
function testOf(pages) {
  const doc = new PDFDocument({ size: 'A4' })
  const pieces = []
  doc.on('data', (piece) => pieces.push(piece))
  for (let n = 1; n <= pages; n++) {
    if (n > 1) doc.addPage()
    for (let line = 1; line <= 40; line++)
      doc.fontSize(11).text(`${n}.${line} Which of these freezes at the lowest temperature?`)
  }
  return new Promise((resolve) => {
    doc.on('end', () => resolve(Buffer.concat(pieces)))
    doc.end()
  })
}

/** Milliseconds from opening an assessment until a condition holds on its page. */
async function opened(page, address, condition) {
  const from = performance.now()
  await page.goto(address, { waitUntil: 'domcontentloaded' })
  await page.waitForFunction(condition, { polling: 10, timeout: 30_000 })
  return performance.now() - from
}

/** Attaches a test of 30 pages to one assessment of the demo, and prints medians. */
export async function measureFirstPage(browser, { app, assessmentId }) {
  const page = await browser.newPage()
  await page.setViewport({ width: 1280, height: 800 })
  await signInPage(page, app.url, 'r.achterberg')
  const address = `${app.url}/assessments/${assessmentId}`
  await page.goto(address)
  const bare = []
  for (let n = 0; n < passes; n++)
    bare.push(await opened(page, address, () => document.body.dataset.page !== undefined))
  const pdf = (await testOf(30)).toString('base64')
  const attached = await page.evaluate(
    async (contents, id) => {
      const bytes = Uint8Array.from(atob(contents), (c) => c.charCodeAt(0))
      const sent = await fetch('/api/upload?name=test.pdf', { method: 'POST', body: bytes })
      const { value } = await sent.json()
      const asked = await fetch(
        `/api/query/assessment.key?input=${encodeURIComponent(JSON.stringify({ assessmentId: id }))}`,
      )
      const { version } = (await asked.json()).value
      const input = { assessmentId: id, documentIds: [value.documentId], expectedVersion: version }
      const answer = await fetch('/api/command/assessment.setDocument', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ input, key: crypto.randomUUID() }),
      })
      return (await answer.json()).ok
    },
    pdf,
    assessmentId,
  )
  if (!attached) throw new Error('the test was not attached')
  const shown = []
  for (let n = 0; n < passes; n++)
    shown.push(await opened(page, address, () => document.querySelector('canvas[data-state=shown]') !== null))
  await page.close()
  console.log('\nThe first page of a test of 30 pages beside its key')
  row('', 'median', 'slowest')
  row('page without a document, live', ms(at(bare, 0.5)), ms(at(bare, 1)))
  row('first page visible', ms(at(shown, 0.5)), ms(at(shown, 1)))
  row('ratio', (at(shown, 0.5) / at(bare, 0.5)).toFixed(1), '')
}
