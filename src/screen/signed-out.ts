/** What the pages of one browser tell each other when somebody signs out in one of them. */
const channelName = 'kedge.session'

const channel = () => ('BroadcastChannel' in globalThis ? new BroadcastChannel(channelName) : undefined)

/** Tells the other pages of this browser that an account was signed out. */
export function tellSignedOut(accountId: string): void {
  const own = channel()
  own?.postMessage(accountId)
  own?.close()
}

/**
 * Calls back when an account was signed out on another page of this browser.
 * @returns a function that ends it
 */
export function onSignedOut(call: (accountId: string) => void): () => void {
  const own = channel()
  own?.addEventListener('message', ({ data }) => typeof data === 'string' && call(data))
  return () => own?.close()
}
