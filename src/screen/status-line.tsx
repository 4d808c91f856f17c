'use client'
import { useEffect, useRef, useState, useSyncExternalStore, type RefObject } from 'react'
import type { OutboxState } from '@/ui/saving/outbox'
import { useAnnounce } from './announce'
import { useClock } from './clock'
import { later, useFetchSoon } from './later'
import { live } from './live-hub'
import { useOutboxState } from './saving'
import { WorkLine } from './work-line'

const NotSaved = later(() => import('./not-saved').then((m) => m.NotSaved))

const changes = (n: number) => (n === 1 ? '1 change' : `${n} changes`)

/** Why edits wait, in words; undefined while they are simply on their way. */
function waitingWords({ waiting, trouble, kept }: OutboxState): string | undefined {
  const n = waiting.length
  if (n === 0 || trouble === 'none') return undefined
  if (trouble === 'signed out') return `${changes(n)} not saved. Sign in to save.`
  if (!kept) return `${changes(n)} not saved. Keep this page open until Kedge is available.`
  return n === 1
    ? '1 change saved on this device. It will be sent when Kedge is available.'
    : `${n} changes saved on this device. They will be sent when Kedge is available.`
}

/** Whether something has lasted for a moment, so that what is short is not shown. */
function useLasting(on: boolean, milliseconds: number): boolean {
  const [lasting, setLasting] = useState(false)
  useEffect(() => {
    if (!on) return setLasting(false)
    const timer = setTimeout(() => setLasting(true), milliseconds)
    return () => clearTimeout(timer)
  }, [on, milliseconds])
  return lasting
}

/** Whether a place on the page has been scrolled out of the window. */
function useOutOfSight(place: RefObject<HTMLElement | null>): boolean {
  const [out, setOut] = useState(false)
  useEffect(() => {
    const element = place.current
    if (!element) return
    const mast = parseInt(getComputedStyle(document.documentElement).getPropertyValue('--mast'), 10) || 0
    const watch = new IntersectionObserver(([entry]) => setOut(entry ? !entry.isIntersecting : false), {
      rootMargin: `-${mast}px 0px 0px`,
    })
    watch.observe(element)
    return () => watch.disconnect()
  }, [place])
  return out
}

/** Says in words what is saved and what is not, and whether changes of others arrive. Speaks only when that changes for the worse or back. */
export function StatusLine({ saves }: { saves: boolean }) {
  const outbox = useOutboxState()
  const { waiting, rejected, savedAt } = outbox
  const clock = useClock()
  const say = useAnnounce()
  const [open, setOpen] = useState(false)
  const liveState = useSyncExternalStore(live.subscribe, live.read, () => 'connecting' as const)
  const busy = waiting.length > 0
  const slow = useLasting(busy, 300)
  const waits = waitingWords(outbox)
  const notLive =
    liveState === 'not live'
      ? `Not up to date${live.heardAt() ? ` since ${clock.time(live.heardAt())}` : ''}`
      : undefined
  useFetchSoon(saves, NotSaved)
  const trouble = waits ? 'waits' : rejected.length > 0 ? 'rejected' : undefined
  const [spoken, setSpoken] = useState<string>()
  useEffect(() => {
    if (trouble === spoken) return
    setSpoken(trouble)
    if (trouble === 'waits') say(waits ?? '')
    else if (trouble === 'rejected') say(`${changes(rejected.length)} not saved.`)
    else say('All changes are saved.')
  }, [trouble, spoken, say, waits, rejected.length])

  const place = useRef<HTMLDivElement>(null)
  const out = useOutOfSight(place)
  const inSight =
    out && (trouble !== undefined || notLive !== undefined)
      ? 'fixed top-[calc(var(--mast)+8px)] right-4 z-20 border border-ink bg-panel px-3 py-2 shadow'
      : ''
  return (
    <div ref={place} className={`no-print ${saves ? 'min-h-5' : ''}`}>
      <div
        className={`flex flex-wrap justify-end gap-x-3 text-right text-[13px] ${inSight}`}
        data-saved={busy ? 'no' : 'yes'}
      >
        <WorkLine />
        {notLive && <span className="text-ochre">{notLive}</span>}
        {waits || rejected.length > 0 ? (
          <button
            type="button"
            className="link font-bold text-port"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            <span aria-hidden>▲ </span>
            {waits ?? `${changes(rejected.length)} not saved`}
          </button>
        ) : busy && slow ? (
          <span className="text-muted">Saving {changes(waiting.length)}</span>
        ) : savedAt !== undefined ? (
          <span className="text-muted">Saved {clock.time(savedAt)}</span>
        ) : (
          saves && <span className="text-muted">Saved automatically</span>
        )}
        {open && (waits || rejected.length > 0) && <NotSaved onClose={() => setOpen(false)} />}
      </div>
    </div>
  )
}
