import type { ServerResponse } from 'node:http'

const words =
  'Kedge is being looked after. Nothing that was saved is lost. Please try again in a few minutes.'

const page = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Kedge</title><body style="font:16px/1.5 sans-serif;max-width:36em;margin:4em auto;padding:0 1em">
<h1>Kedge</h1><p>${words}</p></body></html>`

/** What everyone hears while the database is one of another version: a plain page, or a failure that pages try again. */
export function lookedAfter(path: string, response: ServerResponse): void {
  const isPage = !path.startsWith('/api/')
  response.writeHead(503, {
    'Cache-Control': 'no-store',
    'Retry-After': '30',
    'X-Content-Type-Options': 'nosniff',
    'Content-Type': isPage ? 'text/html; charset=utf-8' : 'application/json',
    'Content-Security-Policy': "default-src 'none'; style-src-attr 'unsafe-inline'",
  })
  response.end(
    isPage
      ? page
      : JSON.stringify({ ok: false, failure: { kind: 'unavailable', message: words }, message: words }),
  )
}
