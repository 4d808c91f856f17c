// Debian's Chromium as its headless shell (the same pages, without the window around them), with everything off that would look for the network.
import puppeteer from 'puppeteer-core'

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--lang=en-GB',
]

/** Starts a browser with a profile of its own. */
export function openBrowser() {
  return puppeteer.launch({ executablePath: '/usr/lib/chromium/chromium-headless-shell', args: flags })
}

/** Signs a page's browser in, as the sign-in form would. */
export async function signInPage(page, url, username, password = 'harbour lights at dusk') {
  await page.goto(`${url}/sign-in`)
  await page.evaluate(
    async (u, p) =>
      fetch('/api/sign-in', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ username: u, password: p }),
      }),
    username,
    password,
  )
}
