'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'

export interface Words {
  readonly text: string
  readonly wrong?: boolean
  /** Takes back what is said. */
  readonly undo?: () => void
}

function Said({ text, wrong = false, undo }: Words) {
  return (
    <div className="flex flex-wrap items-center gap-x-3">
      <p
        role={wrong ? 'alert' : 'status'}
        className={`text-[13px] ${wrong ? 'text-port' : 'text-muted'}`}
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

/** What a key has done, or why it could not, in a line above a grid that is kept free for it. */
export const Message = (words: Words) => (
  <div className="min-h-5">
    <Said {...words} />
  </div>
)

/** The same above a grid that is longer than the window: it stays in sight while one is further down. */
export function MessageInView(words: Words) {
  return (
    <div
      className={`sticky top-[calc(var(--mast)+4px)] z-10 w-fit no-print ${words.text ? 'border border-rule bg-paper px-2' : ''}`}
    >
      <Message {...words} />
    </div>
  )
}

/**
 * What an act on a page has done, or why it could not be done: at the foot of the window, in sight wherever one is on
 * the page, over it and moving nothing.
 */
export function MessageAtFoot({ onClose, ...words }: Words & { onClose: () => void }) {
  const shown = words.text !== ''
  return (
    <div
      className={
        shown
          ? 'fixed bottom-4 left-4 z-20 flex max-w-[min(640px,calc(100vw-32px))] items-center gap-3 rounded-[3px] border border-ink bg-panel px-3 py-2 shadow-lg lg:left-[206px] no-print'
          : 'contents'
      }
    >
      <Said {...words} />
      {shown && (
        <Button kind="quiet" className="min-h-6! py-0!" onClick={onClose}>
          Close<span className="sr-only"> the message</span>
        </Button>
      )}
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
