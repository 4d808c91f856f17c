import type {
  CommandInput,
  CommandName,
  CommandOutput,
  QueryInput,
  QueryName,
  QueryOutput,
} from '@/server/registry'
import type { Failure } from '@/server/platform/failure'
import type { Preview } from '@/server/platform/preview'

/** A failure as the server answers it, or what it means that no answer came. */
export type CallFailure = Failure
export type CallResult<T> =
  | { readonly ok: true; readonly value: T; readonly run?: string }
  | { readonly ok: false; readonly failure: CallFailure }

const unreachable: CallFailure = {
  kind: 'unavailable',
  message: 'Kedge cannot be reached at the moment. Nothing was lost. Please try again.',
}
const unreadable: CallFailure = {
  kind: 'fault',
  message: 'Something went wrong. Please try again.',
}

/** How long an answer may take, in milliseconds; an upload longer. */
const timeout = 30_000
const uploadTimeout = 300_000

/** This page's name among a person's open pages. */
export const tab = globalThis.crypto?.randomUUID?.() ?? 'server'

/** A new idempotency key. */
export const newKey = (): string => crypto.randomUUID()

/** What a page does when its person is no longer the one signed in. */
interface SessionCare {
  /** Opens the sign-in dialog; settles once the person has signed in again. */
  readonly signIn: () => Promise<void>
  /** Someone else is signed in at this browser now. */
  readonly otherAccount: () => void
}

let owner: string | undefined
let care: SessionCare | undefined

/** Whose page this is, as every request says it: account and school. */
export const pageOwner = (): string => owner ?? ''

/** Says whose page this is. */
export function actAs({ accountId, schoolId }: { accountId: string; schoolId: string }): void {
  owner = `${accountId} ${schoolId}`
}

/** Sets what happens when the session has ended or belongs to someone else. */
export function careForSession(by: SessionCare): void {
  care = by
}

const headers = (more: Record<string, string> = {}) => (owner ? { ...more, 'X-Kedge-As': owner } : more)

/** The server's answer, or what it means that none came or that it cannot be read. */
async function call<T>(path: string, init: RequestInit = {}, milliseconds = timeout): Promise<CallResult<T>> {
  let response: Response
  try {
    const ends = AbortSignal.timeout(milliseconds)
    response = await fetch(path, {
      ...init,
      signal: init.signal ? AbortSignal.any([init.signal, ends]) : ends,
    })
  } catch {
    // The network or the server is away, or it took too long. The caller shows it.
    return { ok: false, failure: unreachable }
  }
  try {
    const answer = (await response.json()) as CallResult<T>
    if (typeof answer?.ok === 'boolean') return answer
  } catch {
    // Not our answer but a proxy's page, or one cut short.
  }
  return { ok: false, failure: [502, 503, 504].includes(response.status) ? unreachable : unreadable }
}

const elsewhere: Partial<Record<Failure['kind'], string>> = {
  'password first': '/set-password',
  'choose school': '/choose-school',
}

async function signedIn<T>(ask: () => Promise<CallResult<T>>): Promise<CallResult<T>> {
  const result = await ask()
  if (result.ok) return result
  const { kind } = result.failure
  if (kind === 'other account') care?.otherAccount()
  const page = elsewhere[kind]
  if (page && care) window.location.assign(page)
  if (kind !== 'signed out' || !care) return result
  await care.signIn()
  return ask()
}

const post = (input: unknown, key: string, more: object = {}): RequestInit => ({
  method: 'POST',
  headers: headers({ 'Content-Type': 'application/json' }),
  body: JSON.stringify({ input, key, tab, ...more }),
})

/** Asks a query of the registry. */
export function sendQuery<N extends QueryName>(
  name: N,
  input: QueryInput<N>,
  { signal }: { signal?: AbortSignal } = {},
): Promise<CallResult<QueryOutput<N>>> {
  const address = `/api/query/${name}?input=${encodeURIComponent(JSON.stringify(input))}`
  return signedIn(() => call(address, { headers: headers(), signal }))
}

/** Sends one command once, without asking to sign in; for the outbox, which keeps what it sends. */
export function sendOnce(name: string, input: unknown, key: string): Promise<CallResult<unknown>> {
  return call(`/api/command/${name}`, post(input, key))
}

/**
 * Carries out a command of the registry. When the session has ended the person signs in and it goes on.
 * @param fingerprint of the preview that was shown; when the command would do something else by now, it does nothing
 */
export function sendCommand<N extends CommandName>(
  name: N,
  input: CommandInput<N>,
  key: string = newKey(),
  fingerprint?: string,
): Promise<CallResult<CommandOutput<N>>> {
  return signedIn(() => call(`/api/command/${name}`, post(input, key, { fingerprint })))
}

/** What a command would change; nothing of it stays. */
export function previewOnServer<N extends CommandName>(
  name: N,
  input: CommandInput<N>,
): Promise<CallResult<Preview>> {
  return signedIn(() => call(`/api/command/${name}`, post(input, newKey(), { preview: true })))
}

export type UploadedFile = CommandOutput<'files.upload'>

/** Uploads a file that a test is made from. */
export function uploadFile(file: File): Promise<CallResult<UploadedFile>> {
  const key = newKey()
  return signedIn(() =>
    call(
      `/api/upload?name=${encodeURIComponent(file.name)}&key=${key}`,
      { method: 'POST', headers: headers(), body: file },
      uploadTimeout,
    ),
  )
}

/** Sends a photo of a student, with the part of it to keep in percent. */
export function sendPhoto(
  file: File,
  of: { studentId: string; expectedPhotoId: string | null },
  part: { x: number; y: number; width: number; height: number },
  key: string,
): Promise<CallResult<CommandOutput<'people.setPhoto'>>> {
  const address = new URLSearchParams({
    studentId: of.studentId,
    ...(of.expectedPhotoId ? { expectedPhotoId: of.expectedPhotoId } : {}),
    name: file.name.slice(-100),
    key,
    ...Object.fromEntries(Object.entries(part).map(([name, value]) => [name, String(value)])),
  })
  return signedIn(() =>
    call(`/api/photo?${address}`, { method: 'POST', headers: headers(), body: file }, uploadTimeout),
  )
}

/**
 * Makes a workbook of a list that the page shows; undefined when the server cannot be asked or refuses. Each row travels
 * as a line of JSON of its own.
 */
export async function workbookOf({
  name,
  header,
  rows,
}: {
  readonly name: string
  readonly header: readonly string[]
  readonly rows: readonly (readonly unknown[])[]
}): Promise<Blob | undefined> {
  const lines = [{ name, header }, ...rows.map((row) => row.map((value) => value ?? null))]
  const response = await fetch('/api/list', {
    method: 'POST',
    headers: headers({ 'Content-Type': 'application/x-ndjson' }),
    body: lines.map((line) => JSON.stringify(line)).join('\n'),
    signal: AbortSignal.timeout(uploadTimeout),
  }).catch(() => undefined)
  return response?.ok ? response.blob() : undefined
}
