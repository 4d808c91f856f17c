'use client'
import { useCombobox } from 'downshift'
import { useState } from 'react'
import { Field, TextInput } from '@/ui/field'
import { useAnswer } from './use-live'

export interface PickedStudent {
  readonly id: string
  readonly name: string
}

/** Chooses a student by typing a part of the name or the number; arrows and Enter choose, as in the find box. */
export function StudentPicker({
  label,
  value,
  problem,
  need,
  onChange,
}: {
  label: string
  value: PickedStudent | undefined
  problem?: string
  need?: 'optional'
  onChange: (student: PickedStudent | undefined) => void
}) {
  const [text, setText] = useState(value?.name ?? '')
  const asks = text.trim() !== '' && text !== value?.name
  const { answer = [], asking } = useAnswer('find.anything', asks ? { text } : undefined, {
    after: 80,
    keep: true,
  })
  const students = asks ? answer.filter((f) => f.kind === 'student') : []
  const box = useCombobox({
    items: [...students],
    itemToString: (student) => student?.name ?? '',
    inputValue: text,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    onSelectedItemChange: ({ selectedItem }) => {
      if (!selectedItem) return
      onChange({ id: selectedItem.id, name: selectedItem.name })
      setText(selectedItem.name)
    },
    // Only Enter and the pointer choose; leaving the field keeps what was chosen.
    stateReducer: (state, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputBlur ? { ...state, isOpen: false } : changes,
  })
  const open = box.isOpen && asks
  return (
    <div className="relative">
      <Field label={label} problem={problem} need={need}>
        {(field) => (
          <TextInput
            {...box.getInputProps({
              ...field,
              autoComplete: 'off',
              placeholder: 'Name or number',
              onChange: (e) => {
                setText(e.currentTarget.value)
                if (value) onChange(undefined)
              },
            })}
          />
        )}
      </Field>
      <ul
        {...box.getMenuProps({
          'aria-label': 'Students found',
          className:
            'absolute z-50 max-h-60 w-full overflow-auto rounded-[3px] border border-ink bg-panel shadow-lg',
        })}
        hidden={!open}
      >
        {open &&
          students.map((student, index) => (
            <li
              key={student.id}
              {...box.getItemProps({ item: student, index })}
              className="flex cursor-pointer justify-between gap-4 px-3 py-2 aria-selected:bg-shoal"
            >
              <span>{student.name}</span>
              <span className="text-muted">{student.detail}</span>
            </li>
          ))}
        {open && students.length === 0 && (
          <li className="px-3 py-2 text-muted">{asking ? 'Searching' : 'No matches'}</li>
        )}
      </ul>
    </div>
  )
}
