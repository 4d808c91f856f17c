'use client'
import { limits } from '@/core/limits'
import { readNumber } from '@/core/assessment/kinds/read-number'
import { Select } from '@/ui/field'
import type { KeyFieldProps } from './key-field-props'
import { TypedField } from './typed-field'

const keptNumber = (text: string) =>
  text.trim() === '' || readNumber(text)?.unit === '' ? text.trim() : undefined
const keptTolerance = (text: string) =>
  text.trim() === '' ? '0' : /^\d{1,9}([.,]\d{1,9})?$/.test(text.trim()) ? text.trim() : undefined

/** The key of a number: the number, how far an answer may be off, the unit. */
export function NumberField({ position, content, disabled, onChange }: KeyFieldProps<'number'>) {
  const { right, tolerance, toleranceIn, unit } = content
  const of = `of question ${position}`
  return (
    <span className="flex flex-wrap items-center gap-1">
      <TypedField
        label={`Key ${of}`}
        value={right ?? ''}
        check={keptNumber}
        disabled={disabled}
        className="w-20! text-right"
        onChange={(next) => onChange({ ...content, right: next || null }, `key ${next || 'removed'}`)}
      />
      <span aria-hidden>±</span>
      <TypedField
        label={`Tolerance ${of}`}
        value={tolerance}
        check={keptTolerance}
        disabled={disabled}
        className="w-14! text-right"
        onChange={(next) => onChange({ ...content, tolerance: next }, `tolerance ${next}`)}
      />
      <Select
        aria-label={`Tolerance ${of} in units or percent`}
        disabled={disabled}
        className="min-h-6! w-auto! py-0!"
        value={toleranceIn}
        onChange={(e) =>
          onChange(
            { ...content, toleranceIn: e.target.value === 'percent' ? 'percent' : 'units' },
            'tolerance',
          )
        }
      >
        <option value="units">{unit ?? 'units'}</option>
        <option value="percent">%</option>
      </Select>
      <TypedField
        label={`Unit ${of}`}
        value={unit ?? ''}
        placeholder="unit"
        check={(text) => (text.length <= limits.unit ? text.trim() : undefined)}
        disabled={disabled}
        className="w-16!"
        onChange={(next) => onChange({ ...content, unit: next || null }, `unit ${next || 'removed'}`)}
      />
    </span>
  )
}
