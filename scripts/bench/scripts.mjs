// How much JavaScript each page loads before it can be used.
import { gzipSync } from 'node:zlib'
import { signInPage } from '../lib/chromium.mjs'
import { mainPages } from './pages.mjs'
import { row } from './table.mjs'

/** Prints first-load JavaScript, gzipped. */
export async function measureScripts(browser, opened) {
  const page = await browser.newPage()
  await signInPage(page, opened.app.url, 'r.achterberg')
  console.log('\nFirst-load JavaScript, gzipped')
  row('', 'kB')
  for (const { name, path } of [{ name: 'sign-in', path: '/sign-in' }, ...mainPages(opened)]) {
    const urls = new Set()
    const listen = (response) => /_next\/static\/.*\.js/.test(response.url()) && urls.add(response.url())
    page.on('response', listen)
    await page.goto(opened.app.url + path, { waitUntil: 'load' })
    // What is fetched ahead once the page has come to life is not what it waits for.
    await page.waitForFunction(
      () => !document.querySelector('main header h1') || document.body.dataset.page !== undefined,
    )
    page.off('response', listen)
    const files = await Promise.all([...urls].map(async (url) => (await fetch(url)).arrayBuffer()))
    const bytes = files.reduce((sum, file) => sum + gzipSync(Buffer.from(file)).length, 0)
    row(name, (bytes / 1000).toFixed(0))
  }
  await page.close()
}
