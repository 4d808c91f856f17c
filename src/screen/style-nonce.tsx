'use client'
import { setNonce } from 'get-nonce'

/** Lets the dialogs' package add its style element under the page's policy. */
export function StyleNonce({ nonce }: { nonce: string }) {
  if (typeof window !== 'undefined') setNonce(nonce)
  return null
}
