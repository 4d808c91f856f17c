'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'

export interface Words {
  readonly text: string
  readonly wrong?: boolean
  /** Takes back what is said. */
  readonly undo?: () => void
}

/** What an act has done, or why it could not be done, above the work; keeps its line free while there is nothing to say. */
export function Message({ text, wrong = false, undo }: Words) {
  return (
    <div className="flex flex-wrap items-center gap-x-3">
      <p
        role={wrong ? 'alert' : 'status'}
        className={`min-h-5 text-[13px] ${wrong ? 'text-port' : 'text-muted'}`}
        data-testid="message"
      >
        {wrong && <span aria-hidden>▲ </span>}
        {text}
      </p>
      {undo && (
        <Button kind="quiet" className="min-h-6! py-0!" onClick={undo}>
          Undo
        </Button>
      )}
    </div>
  )
}

/** The message of a page that is longer than the window: it stays in sight while one is further down. */
export function MessageInView(words: Words) {
  return (
    <div
      className={`sticky top-[calc(var(--mast)+4px)] z-10 w-fit no-print ${words.text ? 'mb-2 border border-rule bg-paper px-2 py-1' : ''}`}
    >
      <Message {...words} />
    </div>
  )
}

/** The message of a page and the ways to set it. */
export function useMessage() {
  const [message, setMessage] = useState<Words>({ text: '' })
  return {
    message,
    say: (text: string, undo?: () => void) => setMessage({ text, undo }),
    warn: (text: string) => setMessage({ text, wrong: true }),
  }
}
