'use client'
import { getNonce, setNonce } from 'get-nonce'

/**
 * Lets the dialogs' package add its style element under the page's policy. That is the policy of the first answer: a
 * page that is made anew in place brings another nonce, which the browser would not accept.
 */
export function StyleNonce({ nonce }: { nonce: string }) {
  if (typeof window !== 'undefined' && !getNonce()) setNonce(nonce)
  return null
}
