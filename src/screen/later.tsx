'use client'
import { useEffect, useState, type ComponentType, type ReactNode } from 'react'
import { Button } from '@/ui/button'

/** A part of a page that is fetched when it is first needed. */
export type Later<P> = ComponentType<P> & {
  /** Fetches it ahead of its use, so that it opens at once and also when the server has gone away. */
  readonly fetch: () => void
}

/** Says that a part could not be fetched; the page goes on without it. */
function NotFetched({ again }: { again: () => void }) {
  return (
    <div
      role="alert"
      className="fixed inset-x-4 bottom-4 z-50 mx-auto flex max-w-lg flex-wrap items-center gap-3 border border-l-4 border-line border-l-port bg-panel px-4 py-3 text-left shadow-lg"
    >
      <span className="flex-1">
        <span aria-hidden className="text-port">
          ▲{' '}
        </span>
        This part could not be loaded. Kedge cannot be reached at the moment.
      </span>
      <Button kind="plain" onClick={again}>
        Try again
      </Button>
    </div>
  )
}

/**
 * A component that is fetched when it is first shown, for dialogs and menus that most visits do not open. When that
 * fails it says so in its place and can be tried again; a page never breaks for it.
 * @param load imports it
 * @param options.meanwhile shown until it is there
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  { meanwhile: Meanwhile }: { meanwhile?: ComponentType<P> } = {},
): Later<P> {
  let loaded: ComponentType<P> | undefined
  let underway: Promise<void> | undefined
  const fetch = () => {
    underway ??= load().then(
      (component) => {
        loaded = component
      },
      (error: unknown) => {
        underway = undefined
        throw error
      },
    )
    return underway
  }
  function Shown(props: P): ReactNode {
    const [state, setState] = useState<'fetching' | 'there' | 'failed'>(loaded ? 'there' : 'fetching')
    useEffect(() => {
      if (state !== 'fetching') return
      let left = false
      const end = (next: 'there' | 'failed') => () => {
        if (!left) setState(next)
      }
      fetch().then(end('there'), end('failed'))
      return () => {
        left = true
      }
    }, [state])
    const Part = state === 'there' ? loaded : undefined
    if (Part) return <Part {...props} />
    return (
      <>
        {Meanwhile && <Meanwhile {...props} />}
        {state === 'failed' && <NotFetched again={() => setState('fetching')} />}
      </>
    )
  }
  // Fetching ahead may fail; showing it tries again and says so.
  return Object.assign(Shown, { fetch: () => void fetch().catch(() => {}) })
}

/** How long a page rests before it fetches what may be opened on it, in milliseconds. */
const rest = 1000

/** Fetches parts once the page has come to life, so that they are there when they are opened. */
export function useFetchSoon(wanted: boolean, ...parts: readonly { readonly fetch: () => void }[]): void {
  useEffect(() => {
    if (!wanted) return
    const timer = setTimeout(() => parts.forEach((part) => part.fetch()), rest)
    return () => clearTimeout(timer)
  }, [wanted]) // eslint-disable-line react-hooks/exhaustive-deps -- the parts are constants of a module
}
