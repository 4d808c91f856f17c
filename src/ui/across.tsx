import type { ReactNode } from 'react'

/** What is wider than a narrow screen scrolls inside itself, by finger and by keys; on paper it is whole. */
export function Across({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div
      role="region"
      aria-label={`${label}, scrolls sideways`}
      tabIndex={0}
      className="relative overflow-x-auto print:overflow-visible"
    >
      {children}
    </div>
  )
}
