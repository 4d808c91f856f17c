'use client'
import { Popover } from 'radix-ui'
import { useCombobox } from 'downshift'
import { useState } from 'react'
import { standardName } from '@/core/assessment/standards'
import { matchRank } from '@/core/people/names'
import { TextInput } from '@/ui/field'
import type { Key } from './use-key'

type Standard = Key['knownStandards'][number]

const shown = 40

/** The standards whose code or words hold what was typed, the best first. */
function found(standards: readonly Standard[], text: string): readonly Standard[] {
  if (text.trim() === '') return standards.slice(0, shown)
  return standards
    .flatMap((standard) => {
      const rank = matchRank(`${standard.code ?? ''} ${standard.statement}`, text)
      return rank === undefined ? [] : [{ standard, rank }]
    })
    .sort((a, b) => a.rank - b.rank)
    .slice(0, shown)
    .map(({ standard }) => standard)
}

/** Tags of a question: chosen by typing a part of a code or of its words; Enter adds or takes away. */
export function StandardTags({
  position,
  standards,
  chosen,
  disabled,
  onChange,
}: {
  position: number
  standards: readonly Standard[]
  chosen: readonly string[]
  disabled: boolean
  onChange: (ids: readonly string[]) => void
}) {
  const [open, setOpen] = useState(false)
  const names = standards.filter((s) => chosen.includes(s.id)).map(standardName)
  const label = `Learning standards of question ${position}`
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        disabled={disabled || standards.length === 0}
        aria-label={`${label}: ${names.join(', ') || (standards.length > 0 ? 'none, tag' : 'none yet')}`}
        className="min-h-6 max-w-44 truncate rounded-[3px] border border-line bg-panel px-2 text-left disabled:border-transparent disabled:bg-transparent pointer-coarse:min-h-11"
      >
        {names.length > 0 ? (
          names.join(', ')
        ) : (
          <span className="text-muted">{standards.length > 0 ? 'Tag' : 'none yet'}</span>
        )}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label={label}
          className="z-50 w-[min(420px,90vw)] rounded-[4px] border border-ink bg-panel p-2 shadow-lg"
        >
          <Choose label={label} standards={standards} chosen={chosen} onChange={onChange} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Choose({
  label,
  standards,
  chosen,
  onChange,
}: {
  label: string
  standards: readonly Standard[]
  chosen: readonly string[]
  onChange: (ids: readonly string[]) => void
}) {
  const [text, setText] = useState('')
  const items = found(standards, text)
  const toggle = (id: string) =>
    onChange(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id])
  const box = useCombobox({
    items: [...items],
    itemToString: () => '',
    inputValue: text,
    selectedItem: null,
    isOpen: true,
    defaultHighlightedIndex: 0,
    onSelectedItemChange: ({ selectedItem }) => selectedItem && toggle(selectedItem.id),
    // What was chosen stays in the list, to be removed again.
    stateReducer: (state, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputKeyDownEnter ||
      type === useCombobox.stateChangeTypes.ItemClick
        ? { ...changes, isOpen: true, highlightedIndex: state.highlightedIndex, inputValue: text }
        : changes,
  })
  return (
    <>
      <TextInput
        {...box.getInputProps({
          'aria-label': label,
          autoComplete: 'off',
          autoFocus: true,
          placeholder: 'Code or words',
          onChange: (e) => setText(e.currentTarget.value),
        })}
      />
      <ul
        {...box.getMenuProps({
          'aria-label': 'Learning standards found',
          className: 'mt-1 max-h-64 overflow-auto',
        })}
      >
        {items.map((standard, index) => {
          const isChosen = chosen.includes(standard.id)
          return (
            <li
              key={standard.id}
              {...box.getItemProps({ item: standard, index })}
              className={`flex cursor-pointer gap-2 px-2 py-1 ${index === box.highlightedIndex ? 'bg-shoal' : ''}`}
            >
              <span aria-hidden className="w-4">
                {isChosen ? '✓' : ''}
              </span>
              <span>
                {standard.code && <strong>{standard.code} </strong>}
                {standard.statement}
                {isChosen && <span className="sr-only">, chosen</span>}
              </span>
            </li>
          )
        })}
        {items.length === 0 && <li className="px-2 py-1 text-muted">No matches. Check the spelling.</li>}
      </ul>
    </>
  )
}
