'use client'
import { Children, isValidElement, type ComponentProps, type ReactElement, type ReactNode } from 'react'
import { Controller, type FieldValues, type Path, type PathValue } from 'react-hook-form'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate } from '@/core/calendar/school-year'
import { Field, Problem, Select, TextArea, TextInput, Tick } from '@/ui/field'
import { DateInput } from '@/screen/date-input'
import { Theirs } from './theirs'
import type { CommandForm } from './use-command-form'

interface Named<V extends FieldValues> {
  readonly of: CommandForm<V>
  readonly name: Path<V>
  readonly label: string
  readonly help?: string
}

type Input = Omit<ComponentProps<typeof TextInput>, 'name' | 'form'>

/** One line of text of a form; a number where `number` says so. */
export function FormText<V extends FieldValues>({
  of,
  name,
  label,
  help,
  number = false,
  ...input
}: Named<V> & Input & { number?: boolean }) {
  return (
    <Field
      label={label}
      help={help}
      need={of.need(name)}
      problem={of.problem(name)}
      after={<Theirs of={of} name={name} label={label} />}
    >
      {(field) => (
        <TextInput
          {...field}
          {...input}
          {...(number ? { type: 'number', inputMode: 'numeric' } : {})}
          {...of.form.register(name, number ? { valueAsNumber: true } : {})}
        />
      )}
    </Field>
  )
}

/** One line of text in a table of a form, named for screen readers alone. */
export function FormCell<V extends FieldValues>({
  of,
  name,
  label,
  number = false,
  ...input
}: Named<V> & Input & { number?: boolean }) {
  const problem = of.problem(name)
  return (
    <>
      <TextInput
        aria-label={label}
        aria-invalid={problem ? true : undefined}
        {...input}
        {...(number ? { type: 'number', inputMode: 'numeric' } : {})}
        {...of.form.register(name, number ? { valueAsNumber: true } : {})}
      />
      {problem && (
        <span role="alert" className="block text-[13px] text-port">
          <span aria-hidden>▲ </span>
          {problem}
        </span>
      )}
    </>
  )
}

/** A date of a form. */
export function FormDate<V extends FieldValues>({
  of,
  name,
  label,
  help,
  bare = false,
  onChosen,
}: Named<V> & {
  /** Without a visible label, in a row of several. */
  bare?: boolean
  onChosen?: (date: string) => void
}) {
  const problem = of.problem(name)
  return (
    <Controller
      control={of.form.control}
      name={name}
      render={({ field: { ref, value, onChange, onBlur } }) => {
        const change = (to: string) => {
          onChange(to as PathValue<V, Path<V>>)
          onChosen?.(to)
        }
        const input = (more: object) => (
          <DateInput {...more} inputRef={ref} value={String(value)} onChange={change} onBlur={onBlur} />
        )
        if (bare) return input({ 'aria-label': label, 'aria-invalid': problem ? true : undefined })
        return (
          <Field
            label={label}
            help={help}
            need={of.need(name)}
            problem={problem}
            after={<Theirs of={of} name={name} label={label} words={dateWords} />}
          >
            {(field) => input(field)}
          </Field>
        )
      }}
    />
  )
}

const dateWords = (date: unknown) =>
  isCivilDate(String(date)) ? shortDate(String(date), true) : String(date)

/** The words of the option that has a value. */
function wordsOfOption(options: ReactNode, value: unknown): string {
  const found = Children.toArray(options).find(
    (one): one is ReactElement<{ value?: unknown; children?: ReactNode }> =>
      isValidElement<{ value?: unknown }>(one) && String(one.props.value) === String(value),
  )
  return found ? Children.toArray(found.props.children).join('') : 'no longer here'
}

/** Several lines of text of a form. */
export function FormTextArea<V extends FieldValues>({
  of,
  name,
  label,
  help,
  ...area
}: Named<V> & Omit<ComponentProps<typeof TextArea>, 'name' | 'form'>) {
  return (
    <Field
      label={label}
      help={help}
      need={of.need(name)}
      problem={of.problem(name)}
      after={<Theirs of={of} name={name} label={label} />}
    >
      {(field) => <TextArea {...field} {...area} {...of.form.register(name)} />}
    </Field>
  )
}

/** A box of a form to tick. */
export function FormTick<V extends FieldValues>({
  of,
  name,
  label,
  detail,
}: Pick<Named<V>, 'of' | 'name' | 'label'> & { detail?: string }) {
  return (
    <div>
      <Tick label={label} detail={detail} {...of.form.register(name)} />
      <Theirs of={of} name={name} label={label} words={(value) => (value ? 'ticked' : 'not ticked')} />
    </div>
  )
}

/** A choice of a few, of a form. */
export function FormSelect<V extends FieldValues>({
  of,
  name,
  label,
  help,
  number = false,
  children,
  ...select
}: Named<V> & Omit<ComponentProps<typeof Select>, 'name' | 'form'> & { number?: boolean }) {
  const { onChange, ...registered } = of.form.register(name, number ? { valueAsNumber: true } : {})
  return (
    <Field
      label={label}
      help={help}
      problem={of.problem(name)}
      after={<Theirs of={of} name={name} label={label} words={(value) => wordsOfOption(children, value)} />}
    >
      {(field) => (
        <Select
          {...field}
          {...select}
          {...registered}
          onChange={(e) => {
            void onChange(e)
            select.onChange?.(e)
          }}
        >
          {children}
        </Select>
      )}
    </Field>
  )
}

/** What stopped the form as a whole, above its fields. */
export function FormProblems<V extends FieldValues>({
  of,
  summary = false,
}: {
  of: CommandForm<V>
  /** Also how many fields need a correction, for a form longer than the screen. */
  summary?: boolean
}) {
  const { failure, unplaced, waits } = of
  const fields = summary ? of.toCorrect : 0
  const contested = of.contested.length
  if (!failure && unplaced.length === 0 && fields === 0 && contested === 0 && !waits) return null
  return (
    <div className="grid gap-2">
      {waits && (
        <p role="status" className="hint">
          Kedge cannot be reached at the moment. This is saved as soon as it can be; keep it open.
        </p>
      )}
      {contested > 0 && (
        <Problem>
          Someone else has changed {contested === 1 ? 'a field' : `${contested} fields`} since you opened
          this. Choose whose value stays, then save.
        </Problem>
      )}
      {failure && contested === 0 && <Problem>{failure.message}</Problem>}
      {unplaced.map((message) => (
        <Problem key={message}>{message}</Problem>
      ))}
      {fields > 0 && (
        <Problem>
          Nothing was saved.{' '}
          {fields === 1 ? 'Check the highlighted field.' : `Check the ${fields} highlighted fields.`}
        </Problem>
      )}
    </div>
  )
}

/** The buttons at the end of a form. */
export function FormButtons({ children }: { children: ReactNode }) {
  return <p className="flex flex-wrap gap-3">{children}</p>
}
