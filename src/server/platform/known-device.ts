import { timingSafeEqual } from 'node:crypto'
import { config } from './config'
import { keyed } from './tries'

/** How many accounts one browser is remembered for: a computer in a staff room has a few. */
const most = 8
const days = 180

const cookieName = () => (config().KEDGE_URL.startsWith('https:') ? '__Host-kedge.device' : 'kedge.device')

const markOf = (accountId: string) => keyed(`device ${accountId}`)

function marksIn(headers: Headers): readonly string[] {
  const name = `${cookieName()}=`
  const pair = (headers.get('cookie') ?? '').split(/;\s*/).find((p) => p.startsWith(name))
  return pair ? pair.slice(name.length).split('.').filter(Boolean).slice(0, most) : []
}

/** Whether an account signed in at this browser before, as a cookie says that only Kedge can make. */
export function isKnownDevice(headers: Headers, accountId: string): boolean {
  const mark = Buffer.from(markOf(accountId))
  return marksIn(headers).some((m) => m.length === mark.length && timingSafeEqual(Buffer.from(m), mark))
}

/** The cookie by which this browser is known from now on for an account, beside those known already. */
export function deviceCookie(headers: Headers, accountId: string): string {
  const mark = markOf(accountId)
  const marks = [mark, ...marksIn(headers).filter((m) => m !== mark)].slice(0, most)
  const secure = config().KEDGE_URL.startsWith('https:') ? '; Secure' : ''
  return `${cookieName()}=${marks.join('.')}; Path=/; Max-Age=${days * 86400}; HttpOnly; SameSite=Lax${secure}`
}
