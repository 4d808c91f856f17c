import type {
  CommandInput,
  CommandName,
  CommandOutput,
  QueryInput,
  QueryName,
  QueryOutput,
} from '@/server/registry'
import type { Failure } from '@/server/platform/failure'

/** A failure as the server answers it, or that it did not answer. */
export type CallFailure = Failure
export type CallResult<T> =
  | { readonly ok: true; readonly value: T; readonly run?: string }
  | { readonly ok: false; readonly failure: CallFailure }

const unreachable: CallFailure = {
  kind: 'unavailable',
  message: 'Kedge cannot be reached just now. Nothing was lost; it tries again, or you can.',
}

/** This page's name among a person's open pages. */
export const tab = globalThis.crypto?.randomUUID?.() ?? 'server'

/** A new idempotency key. */
export const newKey = (): string => crypto.randomUUID()

let askToSignIn: (() => Promise<void>) | undefined

/** Sets what opens when the session has ended; it answers once the person has signed in again. */
export function whenSignedOut(open: () => Promise<void>): void {
  askToSignIn = open
}

async function call<T>(request: () => Promise<Response>): Promise<CallResult<T>> {
  try {
    const response = await request()
    return (await response.json()) as CallResult<T>
  } catch {
    // No answer, or none that can be read: the network or the server is away. The caller shows it.
    return { ok: false, failure: unreachable }
  }
}

async function signedIn<T>(request: () => Promise<Response>): Promise<CallResult<T>> {
  const result = await call<T>(request)
  if (result.ok || result.failure.kind !== 'signed out' || !askToSignIn) return result
  await askToSignIn()
  return call<T>(request)
}

const inputOf = (input: unknown) => encodeURIComponent(JSON.stringify(input))

/** Asks a query of the registry. */
export function askServer<N extends QueryName>(
  name: N,
  input: QueryInput<N>,
): Promise<CallResult<QueryOutput<N>>> {
  return signedIn(() => fetch(`/api/query/${name}?input=${inputOf(input)}`))
}

/** Sends one command once, without asking to sign in; for the outbox, which keeps what it sends. */
export function sendOnce(name: string, input: unknown, key: string): Promise<CallResult<unknown>> {
  return call(() =>
    fetch(`/api/command/${name}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ input, key, tab }),
    }),
  )
}

/** Carries out a command of the registry. When the session has ended the person signs in and it goes on. */
export async function tellServer<N extends CommandName>(
  name: N,
  input: CommandInput<N>,
  key: string = newKey(),
): Promise<CallResult<CommandOutput<N>>> {
  return signedIn(() =>
    fetch(`/api/command/${name}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ input, key, tab }),
    }),
  )
}

/** Sends a PDF to be kept. */
export function uploadFile(
  file: File,
): Promise<CallResult<{ documentId: string; name: string; pageCount: number }>> {
  const key = newKey()
  return signedIn(() =>
    fetch(`/api/upload?name=${encodeURIComponent(file.name)}&key=${key}`, { method: 'POST', body: file }),
  )
}
