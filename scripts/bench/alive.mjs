// How soon a page shows something, and how soon it is live, with a processor four times slower and 1.6 Mbit/s, from an
// empty cache; and how many bytes travel until then, and in the three seconds after it.
import { signInPage } from '../lib/chromium.mjs'
import { mainPages } from './pages.mjs'
import { row } from './table.mjs'

const slow = { download: (1.6 * 1024 * 1024) / 8, upload: (0.75 * 1024 * 1024) / 8, latency: 150 }
const passes = 3

const middle = (all) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)] ?? 0

async function once(browser, opened, { who, path }) {
  const context = await browser.createBrowserContext()
  try {
    const page = await context.newPage()
    await page.setViewport({ width: 1280, height: 800 })
    if (who) await signInPage(page, opened.app.url, who)
    const devtools = await page.createCDPSession()
    await devtools.send('Network.enable')
    await devtools.send('Network.clearBrowserCache')
    let bytes = 0
    devtools.on('Network.loadingFinished', ({ encodedDataLength }) => (bytes += encodedDataLength))
    await page.emulateCPUThrottling(4)
    await page.emulateNetworkConditions(slow)
    await page.goto(opened.app.url + path, { waitUntil: 'domcontentloaded' })
    await page.waitForFunction(
      () => document.querySelector('main') && document.body.dataset.page !== undefined,
      { polling: 20, timeout: 60_000 },
    )
    const live = await page.evaluate(() => performance.now())
    const untilLive = bytes
    const first = await page.evaluate(
      () => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0,
    )
    await new Promise((resolve) => setTimeout(resolve, 3000))
    return { first, live, untilLive, after: bytes - untilLive }
  } finally {
    await context.close()
  }
}

/** Prints the median of some passes for each main page, in seconds and kB. */
export async function measureAlive(browser, opened) {
  console.log(
    '\nFirst content and live, 4x slower processor, 1.6 Mbit/s, empty cache: s, s, kB until live, kB after',
  )
  row('', 'first', 'live', 'kB', 'after')
  for (const page of mainPages(opened)) {
    const all = []
    for (let n = 0; n < passes; n++) all.push(await once(browser, opened, page))
    const of = (name) => middle(all.map((one) => one[name]))
    row(
      page.name,
      (of('first') / 1000).toFixed(1),
      (of('live') / 1000).toFixed(1),
      (of('untilLive') / 1000).toFixed(0),
      (of('after') / 1000).toFixed(0),
    )
  }
}
