'use client'
import { useId } from 'react'
import { Button } from '@/ui/button'
import { Select } from '@/ui/field'

/** The names of some of a list, in its order. */
export const namesOf = (
  list: readonly { readonly id: string; readonly name: string }[],
  ids: readonly string[],
): string =>
  list
    .filter((one) => ids.includes(one.id))
    .map((one) => one.name)
    .join(', ')

/** Some members of staff, chosen one after the other. */
export function ChooseStaff({
  label,
  staff,
  chosen,
  problem,
  onChange,
}: {
  label: string
  staff: readonly { readonly id: string; readonly name: string }[]
  chosen: readonly string[]
  problem?: string
  onChange: (ids: string[]) => void
}) {
  const id = useId()
  return (
    <div className="grid content-start gap-1">
      <label htmlFor={id} className="text-[13px] font-bold">
        {label}
      </label>
      {problem && (
        <p role="alert" className="text-[13px] text-port">
          <span aria-hidden>▲ </span>
          {problem}
        </p>
      )}
      <ul>
        {chosen.map((one) => {
          const name = staff.find((s) => s.id === one)?.name ?? 'no longer here'
          return (
            <li key={one} className="flex items-center justify-between gap-2">
              {name}
              <Button kind="quiet" onClick={() => onChange(chosen.filter((x) => x !== one))}>
                Remove<span className="sr-only"> {name}</span>
              </Button>
            </li>
          )
        })}
      </ul>
      <Select id={id} value="" onChange={(e) => e.target.value && onChange([...chosen, e.target.value])}>
        <option value="">{chosen.length === 0 ? 'Choose' : 'Add another'}</option>
        {staff
          .filter((s) => !chosen.includes(s.id))
          .map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
      </Select>
    </div>
  )
}
