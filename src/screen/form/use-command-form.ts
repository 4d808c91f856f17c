'use client'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import {
  useForm,
  type DefaultValues,
  type FieldValues,
  type Path,
  type PathValue,
  type UseFormReturn,
} from 'react-hook-form'
import type { z } from 'zod'
import type { CommandInput, CommandName, CommandOutput } from '@/server/registry'
import { newKey, sendCommand, type CallFailure, type CallResult } from '@/screen/server'
import { needOf } from './need'
import { useOpened, type Contested } from './use-opened'

export interface CommandForm<V extends FieldValues> {
  readonly form: UseFormReturn<V>
  readonly busy: boolean
  /** The server is away; what was sent goes out again until it answers. */
  readonly waits: boolean
  /** Whether anything was typed. */
  readonly isTyped: boolean
  /** What somebody else has saved since the form was opened. */
  readonly contested: readonly Contested[]
  /** Chooses whose value of a contested field stays. */
  readonly settle: (name: string, whose: 'mine' | 'theirs') => void
  /** Why it was not saved, apart from single fields. */
  readonly failure: CallFailure | undefined
  /** Whether a field may stay empty; undefined until the schema has been fetched. */
  readonly need: (path: string) => 'required' | 'optional' | undefined
  /** What is wrong with a field, by its path. */
  readonly problem: (path: string) => string | undefined
  /** What is wrong with fields that have no place on the form. */
  readonly unplaced: readonly string[]
  /** How many fields on the form need a correction. */
  readonly toCorrect: number
  readonly submit: (event?: { preventDefault: () => void }) => void
}

/** The message at a dotted path among the errors of a form. */
function messageAt(errors: unknown, path: string): string | undefined {
  const found = path
    .split('.')
    .reduce<unknown>((at, name) => (at as Record<string, unknown> | undefined)?.[name], errors)
  const own = found as { message?: unknown; root?: { message?: unknown } } | undefined
  const message = own?.message ?? own?.root?.message
  return typeof message === 'string' ? message : undefined
}

/** Every path at which a form has an error. */
function pathsOf(errors: object, before = ''): readonly string[] {
  return Object.entries(errors).flatMap(([name, value]: [string, unknown]) => {
    if (typeof value !== 'object' || value === null || name === 'ref') return []
    const path = name === 'root' ? before.slice(0, -1) : `${before}${name}`
    return 'message' in value ? [path] : pathsOf(value, name === 'root' ? before : `${path}.`)
  })
}

/**
 * A form whose values are the input of a command, checked with the command's own schema while one corrects them.
 * What was sent with the same values is sent with the same key, so that a lost answer creates nothing twice; other
 * values have another key, so that a correction is never ignored.
 * @param options.places the paths of the fields on the form; what is wrong elsewhere is said above it
 * @param options.input the input made of the values, where they are not the same
 */
export function useCommandForm<N extends CommandName, V extends FieldValues>(
  command: N,
  {
    schema,
    values,
    places,
    edited,
    typed,
    input = (v) => v as unknown as CommandInput<N>,
    nothing,
    onSaved,
  }: {
    /** Loads the command's own schema; it is not needed before the first correction. */
    schema: () => Promise<z.ZodType>
    values: V
    places: readonly string[]
    /** The record that is edited, as the page shows it now; `values` follow it, while the form stays as it was opened. */
    edited?: { readonly version: number } | undefined
    /** What was typed before the form opened, as in a table: it lies on top of `values` and counts as typed here. */
    typed?: Partial<V>
    input?: (values: V) => CommandInput<N>
    /** When there is nothing to save, and what ends the form then: the server is not asked. */
    nothing?: { readonly is: (values: V) => boolean; readonly end: () => void }
    onSaved: (value: CommandOutput<N>, values: V, run: string | undefined) => void
  },
): CommandForm<V> {
  const form = useForm<V>({
    defaultValues: values as DefaultValues<V>,
    mode: 'onSubmit',
    reValidateMode: 'onChange',
    resolver: async (now, context, options) => {
      const parts = await Promise.all([import('@hookform/resolvers/zod'), schema()]).catch(() => undefined)
      // Where the schema cannot be fetched, the server alone reads the input.
      if (!parts) return { values: now, errors: {} } as never
      const [{ zodResolver }, loaded] = parts
      const check = zodResolver(loaded as never)
      const checked = await check(input(now) as never, context as never, options as never)
      // What is sent is what was typed; the server reads it with the same schema.
      return (
        Object.keys(checked.errors).length > 0
          ? { values: {}, errors: checked.errors }
          : { values: now, errors: {} }
      ) as never
    },
  })
  const before = useRef(typed)
  useEffect(() => {
    for (const [name, value] of Object.entries(before.current ?? {}))
      if (value !== undefined)
        form.setValue(name as Path<V>, value as PathValue<V, Path<V>>, { shouldDirty: true })
  }, [form])
  const opened = useOpened(edited, values, form.getValues)
  const client = useQueryClient()
  // Fetched while the form is being filled in.
  const load = useRef(schema)
  const [fetched, setFetched] = useState<z.ZodType>()
  useEffect(() => {
    // What cannot be fetched now is asked for again when the form is sent.
    Promise.all([import('@hookform/resolvers/zod'), load.current()]).then(
      ([, loaded]) => setFetched(() => loaded),
      () => undefined,
    )
  }, [])
  const needs = useRef(new Map<string, 'required' | 'optional' | undefined>())
  const [busy, setBusy] = useState(false)
  const [waits, setWaits] = useState(false)
  const isOpen = useRef(true)
  useEffect(() => {
    isOpen.current = true
    return () => {
      isOpen.current = false
    }
  }, [])
  const [failure, setFailure] = useState<CallFailure>()
  const sent = useRef({ text: '', key: '' })
  // Read while drawing, so that the form draws again when errors change.
  const { errors, isDirty } = form.formState

  /** Sends until the server answers, with the same key, as long as the form is open. */
  async function sendUntilAnswered(asked: CommandInput<N>): Promise<CallResult<unknown>> {
    for (let tries = 1; ; tries++) {
      const result: CallResult<unknown> = await sendCommand(command, asked, sent.current.key)
      if (result.ok || result.failure.kind !== 'unavailable' || !isOpen.current) return result
      setWaits(true)
      await new Promise((resolve) => setTimeout(resolve, Math.min(1000 * tries, 5000)))
      if (!isOpen.current) return result
    }
  }

  async function send(now: V): Promise<void> {
    if (opened.isGone || opened.contested.length > 0) return
    const asked = input(now)
    const text = JSON.stringify(asked)
    if (sent.current.text !== text) sent.current = { text, key: newKey() }
    setBusy(true)
    const result = await sendUntilAnswered(asked)
    setBusy(false)
    setWaits(false)
    if (result.ok) {
      sent.current = { text: '', key: '' }
      setFailure(undefined)
      return onSaved(result.value as CommandOutput<N>, now, result.run)
    }
    setFailure(result.failure)
    // What is saved by now is shown beside the fields.
    if (result.failure.kind === 'conflict') await client.refetchQueries({ type: 'active' })
    if (result.failure.kind !== 'invalid') return
    result.failure.fields.forEach(({ path, message }, i) =>
      form.setError(path as Path<V>, { type: 'server', message }, { shouldFocus: i === 0 }),
    )
  }
  const isPlaced = (path: string) => places.some((p) => p === path || path.startsWith(`${p}.`))
  const wrong = pathsOf(errors)
  const gone: CallFailure = {
    kind: 'not found',
    message: 'This was removed by someone else since you opened it, so it cannot be saved.',
  }
  return {
    form,
    busy,
    waits,
    isTyped: isDirty,
    contested: opened.contested,
    settle: (name, whose) => {
      const theirs = opened.contested.find((c) => c.name === name)?.theirs
      if (whose === 'theirs') form.setValue(name as Path<V>, theirs as never, { shouldDirty: true })
      opened.settle(name)
      setFailure(undefined)
    },
    failure: opened.isGone ? gone : failure?.kind === 'invalid' ? undefined : failure,
    need: (path) => {
      if (!fetched) return undefined
      if (!needs.current.has(path)) needs.current.set(path, needOf(fetched, path))
      return needs.current.get(path)
    },
    problem: (path) => messageAt(errors, path),
    unplaced: wrong.filter((path) => !isPlaced(path)).map((path) => messageAt(errors, path) ?? ''),
    toCorrect: wrong.filter(isPlaced).length,
    submit: (event) => {
      event?.preventDefault()
      form.clearErrors()
      setFailure(undefined)
      if (opened.contested.length === 0 && nothing?.is(form.getValues())) return nothing.end()
      void form.handleSubmit(send)()
    },
  }
}
