'use client'
import { useCombobox } from 'downshift'
import { useEffect, useRef, useState } from 'react'
import { matchRank } from '@/core/people/names'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { useGo } from '@/screen/go'
import { useDated } from '@/screen/link'
import { useSchool } from '@/screen/school-context'
import { useAnswer } from '@/screen/use-live'

interface Offer {
  readonly key: string
  readonly name: string
  readonly detail: string
  readonly href: string
}

/**
 * One box that finds students, registers, classes, assessments and pages. The first entry is selected until the arrows
 * choose another; what is typed next begins with the first again, also when its answer comes later.
 */
export function FindBox({ onClose }: { onClose: () => void }) {
  const { places, acts } = useSchool()
  const { push } = useGo()
  const dated = useDated()
  const [text, setText] = useState('')
  // Enter before the answer to this text is there waits for it.
  const entered = useRef(false)
  const {
    answer = [],
    problem,
    asking,
  } = useAnswer('find.anything', text.trim() ? { text } : undefined, {
    after: 80,
    keep: true,
  })
  const go = (href: string) => {
    onClose()
    push(dated(href))
  }
  // A place opens its first page, so that an address stands for two.
  const known = [...acts, ...places.map(({ name, href }) => ({ name, href, of: '' }))]
  const pages = known.filter((a) => matchRank(a.name, text) !== undefined)
  const entries: Offer[] = [
    ...(text.trim() ? answer : []).map((f) => ({ ...f, key: f.kind + f.id })),
    ...pages.map(({ name, href, of }) => ({
      key: `${of} ${name}`,
      name,
      detail: of ? `page of ${of}` : 'page',
      href,
    })),
  ]
  const first = entries[0]
  const [chosen, setChosen] = useState('')
  const highlighted = Math.max(
    entries.findIndex((e) => e.key === chosen),
    entries.length > 0 ? 0 : -1,
  )
  const box = useCombobox<Offer>({
    items: entries,
    itemToString: (entry) => entry?.name ?? '',
    isOpen: true,
    inputValue: text,
    selectedItem: null,
    highlightedIndex: highlighted,
    onHighlightedIndexChange: (change) => setChosen(entries[change.highlightedIndex]?.key ?? ''),
    onSelectedItemChange: ({ selectedItem }) => selectedItem && go(selectedItem.href),
    // Leaving the field chooses nothing.
    stateReducer: (state, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputBlur ? state : changes,
  })
  useEffect(() => {
    if (asking) return
    if (entered.current && first) go(first.href)
    entered.current = false
  }, [asking, first?.key]) // eslint-disable-line react-hooks/exhaustive-deps -- only when an answer is there
  return (
    <Dialog title="Find" onClose={onClose}>
      <input
        {...box.getInputProps({
          autoFocus: true,
          'aria-label': 'Find',
          placeholder: 'Name, number, class, assessment or page',
          className: 'mb-2 w-full rounded-[3px] border border-line bg-panel px-2 py-2',
          onChange: (e) => {
            entered.current = false
            setChosen('')
            setText(e.currentTarget.value)
          },
          onKeyDown: (e) => {
            if (e.key !== 'Enter' || !asking) return
            e.preventDefault()
            Object.assign(e.nativeEvent, { preventDownshiftDefault: true })
            entered.current = true
          },
        })}
      />
      {entries.length === 0 && (
        <p className="p-3 text-muted" role="status">
          {asking ? 'Searching' : (problem ?? 'No matches. Try part of a name.')}
        </p>
      )}
      <ul
        {...box.getMenuProps({ 'aria-label': 'Found', className: 'max-h-[50vh] overflow-auto' })}
        hidden={entries.length === 0}
      >
        {entries.map((entry, index) => (
          <li
            key={entry.key}
            {...box.getItemProps({ item: entry, index })}
            className="flex cursor-pointer justify-between gap-4 px-3 py-2 aria-selected:bg-shoal"
          >
            <span>{entry.name}</span>
            <span className="text-muted">{entry.detail}</span>
          </li>
        ))}
      </ul>
      <Button kind="plain" className="mt-2" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  )
}
