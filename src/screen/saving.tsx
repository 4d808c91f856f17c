'use client'
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from 'react'
import type { CommandInput, CommandName, CommandOutput } from '@/server/registry'
import { browserShelf } from '@/ui/saving/browser-shelf'
import { Outbox, type Edit, type OutboxState, type Refused, type SendResult } from '@/ui/saving/outbox'
import { rebase } from './rebase'
import { newKey, sendOnce, whenSignedOut } from './server'
import { SignInAgain } from './sign-in-again'

const OutboxContext = createContext<Outbox | undefined>(undefined)

/** Once what was typed is painted; at the latest in a tenth of a second, since a hidden page does not paint. */
function painted(): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, 100)
    requestAnimationFrame(() => setTimeout(resolve))
  })
}

async function send(edit: Edit): Promise<SendResult> {
  await painted()
  const result = await sendOnce(edit.command, edit.input, edit.id)
  if (result.ok) return { kind: 'done', value: result.value, run: result.run }
  const { failure } = result
  if (failure.kind === 'unavailable') return { kind: 'unreachable' }
  if (['signed out', 'password first', 'choose school'].includes(failure.kind)) return { kind: 'signed out' }
  return {
    kind: 'refused',
    message: failure.message,
    conflict: failure.kind === 'conflict',
    current: failure.kind === 'conflict' ? failure.standing : undefined,
  }
}

/** Keeps the outbox of the person signed in, and asks them to sign in again when their session ends. */
export function SavingProvider({
  accountId,
  username,
  children,
}: {
  accountId: string
  username: string
  children: ReactNode
}) {
  const [outbox, setOutbox] = useState<Outbox>()
  const [signingIn, setSigningIn] = useState(false)
  const resolvers = useRef<(() => void)[]>([])

  useEffect(() => {
    const made = new Outbox({
      send,
      rebase,
      shelf: browserShelf(accountId),
      now: () => Date.now(),
      later: (call, ms) => void setTimeout(call, ms),
    })
    setOutbox(made)
    whenSignedOut(() => {
      setSigningIn(true)
      return new Promise((resolve) => resolvers.current.push(resolve))
    })
    const resume = () => made.resume()
    const stop = made.subscribe(() => {
      if (made.read().trouble === 'signed out') setSigningIn(true)
    })
    const warn = (event: BeforeUnloadEvent) => {
      if (made.read().waiting.length > 0) event.preventDefault()
    }
    window.addEventListener('online', resume)
    window.addEventListener('focus', resume)
    window.addEventListener('beforeunload', warn)
    made.resume()
    return () => {
      stop()
      window.removeEventListener('online', resume)
      window.removeEventListener('focus', resume)
      window.removeEventListener('beforeunload', warn)
    }
  }, [accountId])

  const signedIn = useCallback(() => {
    setSigningIn(false)
    outbox?.resume()
    for (const resolve of resolvers.current.splice(0)) resolve()
  }, [outbox])

  return (
    <OutboxContext.Provider value={outbox}>
      {children}
      {signingIn && <SignInAgain username={username} onSignedIn={signedIn} />}
    </OutboxContext.Provider>
  )
}

const nothing: OutboxState = { waiting: [], trouble: 'none', savedAt: undefined, refused: [] }
const never = () => () => {}

/** What is saved, being saved, or not saved. */
export function useOutboxState(): OutboxState {
  const outbox = useContext(OutboxContext)
  return useSyncExternalStore(outbox?.subscribe ?? never, outbox?.read ?? (() => nothing), () => nothing)
}

export interface Saving {
  /** Sends a change as soon as it can be; edits of the same slot replace each other while they wait. */
  readonly save: <N extends CommandName>(
    command: N,
    input: CommandInput<N>,
    options: { slot: string; label: string },
  ) => void
  readonly isWaiting: (slot: string) => boolean
  readonly dismiss: (editId: string) => void
}

/** Saves changes as they are made. */
export function useSaving(): Saving {
  const outbox = useContext(OutboxContext)
  return useMemo(
    () => ({
      save: (command, input, { slot, label }) =>
        outbox?.add({ id: newKey(), slot, command, input, label, at: Date.now() }),
      isWaiting: (slot) => outbox?.isWaiting(slot) ?? false,
      dismiss: (editId) => outbox?.dismiss(editId),
    }),
    [outbox],
  )
}

/** How an edit ended: taken, with the server's answer, or refused. */
type Outcome<T> = { readonly value: T; readonly run?: string } | { readonly refused: Refused }

/** Calls back when any edit was taken by the server, or refused. */
export function useEnded(call: (edit: Edit, outcome: Outcome<unknown>) => void): void {
  const outbox = useContext(OutboxContext)
  const latest = useRef(call)
  useEffect(() => {
    latest.current = call
  })
  useEffect(() => outbox?.onEnd((edit, outcome) => latest.current(edit, outcome)), [outbox])
}

/** Calls back when an edit of one command was taken by the server, or refused. */
export function useSaved<N extends CommandName>(
  command: N,
  call: (input: CommandInput<N>, outcome: Outcome<CommandOutput<N>>) => void,
): void {
  useEnded((edit, outcome) => {
    if (edit.command === command) call(edit.input as CommandInput<N>, outcome as Outcome<CommandOutput<N>>)
  })
}
