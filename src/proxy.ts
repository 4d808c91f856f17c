import { randomBytes } from 'node:crypto'
import { NextResponse, type NextRequest } from 'next/server'

/** Whether the percent codes of an address stand for characters. */
function isDecodable(path: string): boolean {
  try {
    return decodeURIComponent(path) !== ''
  } catch {
    return false
  }
}

/** Gives every page a nonce of its own and the headers that keep foreign code out. */
export function proxy(request: NextRequest): NextResponse {
  // Next itself would answer with an error of the server.
  if (!isDecodable(request.nextUrl.pathname))
    return new NextResponse('This address cannot be read.', {
      status: 400,
      headers: { 'Content-Type': 'text/plain; charset=utf-8', 'X-Content-Type-Options': 'nosniff' },
    })
  if (request.nextUrl.pathname.startsWith('/api/')) return NextResponse.next()
  const nonce = randomBytes(16).toString('base64')
  const development = process.env.NODE_ENV === 'development'
  const policy = [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ''}`,
    `style-src 'self' 'nonce-${nonce}'`,
    // React writes widths and heights of drawings as attributes; those cannot load or run anything.
    `style-src-attr 'unsafe-inline'`,
    `img-src 'self' blob: data:`,
    `font-src 'self' data:`,
    `connect-src 'self'`,
    `worker-src 'self' blob:`,
    `frame-src 'self' blob:`,
    `object-src 'none'`,
    `base-uri 'none'`,
    // Every form is sent by its page. One that is sent before the page is live goes nowhere, and nothing of it into
    // the address.
    `form-action 'none'`,
    `frame-ancestors 'none'`,
  ].join('; ')
  const headers = new Headers(request.headers)
  headers.set('x-nonce', nonce)
  headers.set('content-security-policy', policy)
  headers.set('x-kedge-path', request.nextUrl.pathname + request.nextUrl.search)
  const response = NextResponse.next({ request: { headers } })
  response.headers.set('Content-Security-Policy', policy)
  response.headers.set('X-Content-Type-Options', 'nosniff')
  response.headers.set('Referrer-Policy', 'same-origin')
  response.headers.set('Permissions-Policy', 'camera=(), microphone=(), geolocation=()')
  response.headers.set('Cross-Origin-Opener-Policy', 'same-origin')
  return response
}

export const config = {
  matcher: ['/((?!_next/static|_next/image|favicon.ico|icon.svg|api/).*)', '/(api/.*%.*)'],
}
