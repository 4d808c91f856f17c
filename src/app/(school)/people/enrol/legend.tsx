import type { ReactNode } from 'react'

/** The heading of one part of the form. */
export function Legend({ children }: { children: ReactNode }) {
  return (
    <legend className="mb-3 w-full border-b border-ink pb-1">
      <h2>{children}</h2>
    </legend>
  )
}
