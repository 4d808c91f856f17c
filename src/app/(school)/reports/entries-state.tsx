import type { EntriesState } from '@/core/reports/entries'

const shapes: Readonly<Record<EntriesState, { readonly sign: string; readonly tone: string }>> = {
  writing: { sign: '○', tone: '' },
  'sent back': { sign: '↩', tone: 'font-bold text-port' },
  'handed in': { sign: '◐', tone: 'font-bold' },
  checked: { sign: '✓', tone: 'text-starboard' },
  released: { sign: '●', tone: 'text-starboard' },
}

/** The state of class entries, as shape and word. */
export function EntriesStateMark({ state }: { state: string }) {
  const shape = shapes[state as EntriesState]
  return (
    <span className={`whitespace-nowrap ${shape.tone}`}>
      <span aria-hidden className="inline-block w-5">
        {shape.sign}
      </span>
      {state}
    </span>
  )
}
