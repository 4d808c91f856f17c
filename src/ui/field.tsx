'use client'
import { useId, type ComponentProps, type ReactNode } from 'react'
import { keepPlain } from './plain-text'

export interface FieldProps {
  readonly id: string
  readonly 'aria-invalid'?: true
  readonly 'aria-describedby'?: string
  readonly 'aria-required'?: true
}

/** A label, its field, a word of help, and what is wrong with it, tied together for screen readers. */
export function Field({
  label,
  help,
  need,
  problem,
  after,
  children,
  className = '',
}: {
  label: string
  help?: string
  /** Whether it may stay empty, where that is known. */
  need?: 'required' | 'optional'
  problem?: string
  /** What else belongs to it, below. */
  after?: ReactNode
  children: (field: FieldProps) => ReactNode
  className?: string
}) {
  const id = useId()
  const described = [help && `${id}-help`, problem && `${id}-problem`].filter(Boolean).join(' ')
  return (
    <div className={`grid grid-cols-[minmax(0,1fr)] content-start gap-1 ${className}`}>
      <label htmlFor={id} className="text-[13px] font-bold">
        {label}
        {/* Screen readers say of the field itself whether it is required. */}
        {need === 'optional' && (
          <span aria-hidden className="font-normal text-muted">
            {' '}
            (optional)
          </span>
        )}
      </label>
      {children({
        id,
        'aria-required': need === 'required' ? true : undefined,
        'aria-invalid': problem ? true : undefined,
        'aria-describedby': described || undefined,
      })}
      {help && (
        <p id={`${id}-help`} className="text-[12px] text-muted">
          {help}
        </p>
      )}
      {problem && (
        <p id={`${id}-problem`} role="alert" className="mt-1 text-[13px] text-port">
          <span aria-hidden>▲ </span>
          {problem}
        </p>
      )}
      {after}
    </div>
  )
}

const box =
  'w-full rounded-[3px] border border-line bg-panel px-2 py-1 min-h-8 pointer-coarse:min-h-11 aria-invalid:border-port aria-invalid:border-2'

/** One line of text. */
export function TextInput({ className = '', ...rest }: ComponentProps<'input'>) {
  return <input className={`${box} ${className}`} onInput={keepPlain} {...rest} />
}

/** A choice of a few. */
export function Select({ className = '', ...rest }: ComponentProps<'select'>) {
  return <select className={`${box} ${className}`} {...rest} />
}

/** Several lines of text. */
export function TextArea({ className = '', ...rest }: ComponentProps<'textarea'>) {
  return <textarea className={`${box} leading-snug ${className}`} onInput={keepPlain} {...rest} />
}

/** A checkbox with its words. */
export function Tick({
  label,
  detail,
  ...rest
}: ComponentProps<'input'> & { label: string; detail?: string }) {
  return (
    <label className="flex min-h-7 items-center gap-2 pointer-coarse:min-h-11">
      <input type="checkbox" className="size-4 accent-ink" {...rest} />
      <span>
        {label}
        {detail && <span className="text-muted">{`, ${detail}`}</span>}
      </span>
    </label>
  )
}

/** A message above a form or a page about what went wrong. */
export function Problem({ children }: { children: ReactNode }) {
  return (
    <div role="alert" className="border-l-4 border-port bg-panel px-3 py-2">
      <span aria-hidden className="text-port">
        ▲{' '}
      </span>
      {children}
    </div>
  )
}
