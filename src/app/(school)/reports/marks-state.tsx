import type { MarksState } from '@/core/marks/periods/state'

const shapes: Readonly<
  Record<MarksState, { readonly sign: string; readonly tone: string; readonly words: string }>
> = {
  open: { sign: '○', tone: 'text-muted', words: 'marks open' },
  confirmed: { sign: '◐', tone: '', words: 'marks confirmed' },
  closed: { sign: '●', tone: 'text-starboard', words: 'marks closed' },
}

/** How far the marks of a class are, as shape and word. */
export function MarksStateMark({
  state,
  isBare = false,
}: {
  state: MarksState
  /** Where it is said already that this is about marks. */
  isBare?: boolean
}) {
  const { sign, tone, words } = shapes[state]
  return (
    <span className={`whitespace-nowrap ${tone}`}>
      <span aria-hidden className="inline-block w-5">
        {sign}
      </span>
      {isBare ? state : words}
    </span>
  )
}
