import { config } from './config'

/**
 * The address a request came from, as the proxies in front say that KEDGE_PROXIES counts: each adds the one it saw at
 * the end. Without a configured proxy anybody could write what they like there, so there is none.
 */
export function clientAddress(headers: Headers): string | undefined {
  const { KEDGE_PROXIES } = config()
  if (KEDGE_PROXIES === 0) return undefined
  const seen = (headers.get('x-forwarded-for') ?? '').split(',').map((part) => part.trim())
  return seen.at(-KEDGE_PROXIES) || undefined
}
