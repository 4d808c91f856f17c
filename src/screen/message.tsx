'use client'
import { useState } from 'react'

export interface Words {
  readonly text: string
  readonly wrong?: boolean
}

/** What an act has done, or why it could not be done, above the work; keeps its line free while there is nothing to say. */
export function Message({ text, wrong = false }: Words) {
  return (
    <p
      role={wrong ? 'alert' : 'status'}
      className={`min-h-5 text-[13px] ${wrong ? 'text-port' : 'text-muted'}`}
      data-testid="message"
    >
      {wrong && <span aria-hidden>▲ </span>}
      {text}
    </p>
  )
}

/** The message of a page and the ways to set it. */
export function useMessage() {
  const [message, setMessage] = useState<Words>({ text: '' })
  return {
    message,
    say: (text: string) => setMessage({ text }),
    warn: (text: string) => setMessage({ text, wrong: true }),
  }
}
