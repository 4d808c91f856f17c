'use client'
import { useRef, useState } from 'react'
import { summaryOfWork } from '@/core/work'
import { later } from './later'
import { useWork } from './work'

const WorkPopover = later(() => import('./work-popover').then((m) => m.WorkPopover))

/** Background work in the head of a page, until its result was fetched or it was dismissed. */
export function WorkLine() {
  const { all } = useWork()
  const [open, setOpen] = useState(false)
  const button = useRef<HTMLButtonElement>(null)
  const summary = summaryOfWork(all)
  if (!summary && !open) return null
  const failed = all.some((work) => work.state === 'failed' && work.dismissedAt === null)
  return (
    <>
      <button
        ref={button}
        type="button"
        className={`link text-right ${failed ? 'font-bold text-port' : ''}`}
        aria-expanded={open}
        aria-haspopup="dialog"
        onClick={() => setOpen(!open)}
      >
        {failed && <span aria-hidden>▲ </span>}
        {summary ?? 'Background work'}
      </button>
      {open && <WorkPopover button={button} onClose={() => setOpen(false)} />}
    </>
  )
}
