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
import { Outbox, type Ended, type OutboxState, type SendResult } from '@/ui/saving/outbox'
import { sealer } from '@/ui/saving/sealed'
import { browserShelf } from '@/ui/saving/shelf'
import type { Edit } from '@/ui/saving/edit'
import { later, useFetchSoon } from './later'
import { reconnect } from './live-hub'
import { onSignedOut } from './signed-out'
import { actAs, careForSession, newKey, sendOnce, tab } from './server'

const SignInAgain = later(() => import('./sign-in-again').then((m) => m.SignInAgain))
const OtherAccount = later(() => import('./other-account').then((m) => m.OtherAccount))

interface Saving {
  readonly outbox: Outbox | undefined
  /** Makes edits of everything that is typed and not yet an edit. */
  readonly flush: () => void
  /** Calls back before the page, the tab or the session is left. */
  readonly beforeLeaving: (flush: () => void) => () => void
}

const SavingContext = createContext<Saving>({
  outbox: undefined,
  flush: () => {},
  beforeLeaving: () => () => {},
})

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
  switch (failure.kind) {
    case 'unavailable':
      return { kind: navigator.onLine ? 'unavailable' : 'unreachable' }
    case 'signed out':
    case 'password first':
    case 'choose school':
      return { kind: 'signed out' }
    case 'other account':
    case 'fault':
      return { kind: failure.kind, message: failure.message }
    case 'conflict':
      return { kind: 'conflict', message: failure.message, standing: failure.standing }
    default:
      return { kind: 'refused', message: failure.message }
  }
}

const nothing: OutboxState = { waiting: [], rejected: [], trouble: 'none', savedAt: undefined, kept: true }
const never = () => () => {}

interface Owner {
  readonly accountId: string
  readonly schoolId: string
  readonly username: string
  readonly name: string
  /** Seals what this device keeps. */
  readonly deviceKey: string
}

/**
 * Keeps the outbox of the person whose page this is. Asks them to sign in again when their session ends, and stops
 * the page when someone else has signed in at this browser.
 */
export function SavingProvider({ owner, children }: { owner: Owner; children: ReactNode }) {
  const { accountId, schoolId } = owner
  const [outbox] = useState(() => {
    if (typeof window === 'undefined') return undefined
    actAs(owner)
    return new Outbox({
      send,
      newId: newKey,
      shelf: browserShelf(owner, tab, sealer(owner.deviceKey)),
      now: () => Date.now(),
      later: (call, ms) => void setTimeout(call, ms),
    })
  })
  const [state, setState] = useState<'working' | 'signing in' | 'other account'>('working')
  const waiters = useRef<(() => void)[]>([])
  const flushes = useRef(new Set<() => void>())
  const flush = useCallback(() => [...flushes.current].forEach((call) => call()), [])
  const beforeLeaving = useCallback((call: () => void) => {
    flushes.current.add(call)
    return () => void flushes.current.delete(call)
  }, [])

  useEffect(() => {
    if (!outbox) return
    const signIn = () => setState((now) => (now === 'other account' ? now : 'signing in'))
    careForSession({
      signIn: () => {
        signIn()
        return new Promise((resolve) => waiters.current.push(resolve))
      },
      otherAccount: () => outbox.stop('other account'),
    })
    const stop = outbox.subscribe(() => {
      const { trouble } = outbox.read()
      if (trouble === 'signed out') signIn()
      if (trouble === 'other account') setState('other account')
    })
    const resume = () => {
      outbox.resume()
      void outbox.adopt()
    }
    const hide = () => document.visibilityState === 'hidden' && flush()
    const warn = (event: BeforeUnloadEvent) => {
      flush()
      if (outbox.isBusy) event.preventDefault()
    }
    const listeners: readonly (readonly [EventTarget, string, (event: never) => unknown])[] = [
      [window, 'online', resume],
      [window, 'focus', resume],
      [window, 'pagehide', flush],
      [window, 'beforeunload', warn],
      [document, 'visibilitychange', hide],
    ]
    for (const [target, name, call] of listeners) target.addEventListener(name, call as EventListener)
    const stopListening = onSignedOut((who) => {
      if (who !== accountId) return
      outbox.stop()
      window.location.assign('/sign-in')
    })
    void outbox.adopt()
    return () => {
      stop()
      stopListening()
      for (const [target, name, call] of listeners) target.removeEventListener(name, call as EventListener)
    }
  }, [outbox, flush, accountId])

  const signedIn = useCallback(() => {
    setState('working')
    outbox?.resume()
    reconnect()
    for (const resolve of waiters.current.splice(0)) resolve()
  }, [outbox])
  useFetchSoon(true, SignInAgain, OtherAccount)
  const saving = useMemo(() => ({ outbox, flush, beforeLeaving }), [outbox, flush, beforeLeaving])

  return (
    <SavingContext.Provider value={saving}>
      {/* Whoever comes to a page whose session has ended reads nothing on it. */}
      <div className={state === 'working' ? 'contents' : 'invisible contents'}>{children}</div>
      {state === 'signing in' && (
        <SignInAgain username={owner.username} owner={`${accountId} ${schoolId}`} onSignedIn={signedIn} />
      )}
      {state === 'other account' && <Stopped name={owner.name} />}
    </SavingContext.Provider>
  )
}

/** The outbox of this page's person; undefined while the server draws. */
export function useSaving(): Saving {
  return useContext(SavingContext)
}

/** What is saved, being saved, or not saved. */
export function useOutboxState(): OutboxState {
  const { outbox } = useSaving()
  return useSyncExternalStore(outbox?.subscribe ?? never, outbox?.read ?? (() => nothing), () => nothing)
}

/** Calls back before the page, the tab or the session is left, so that nothing half typed stays behind. */
export function useBeforeLeaving(call: () => void): void {
  const { beforeLeaving } = useSaving()
  const latest = useRef(call)
  useEffect(() => {
    latest.current = call
  })
  useEffect(() => {
    const stop = beforeLeaving(() => latest.current())
    return () => {
      latest.current()
      stop()
    }
  }, [beforeLeaving])
}

/** Calls back when an edit was saved, set aside or replaced. */
export function useEnded(call: (ended: Ended) => void): void {
  const { outbox } = useSaving()
  const latest = useRef(call)
  useEffect(() => {
    latest.current = call
  })
  useEffect(() => outbox?.onEnd((ended) => latest.current(ended)), [outbox])
}

/** Tells the dialog what this page has not saved yet. */
function Stopped({ name }: { name: string }) {
  const { waiting, rejected } = useOutboxState()
  return <OtherAccount name={name} unsaved={waiting.length + rejected.length} />
}
