'use client'
import { sameValue } from '@/core/same'
import { useState } from 'react'

/** A value that somebody else has saved since the form was opened. */
export interface Contested {
  readonly name: string
  /** What is saved now. */
  readonly theirs: unknown
}

/**
 * What a dialog was opened with, with the versions that were in sight, whatever the page behind it shows by now. What
 * somebody else has changed since is a conflict.
 */
export function useAtOpening<T>(value: T): T {
  // A function is kept, not called.
  const [opened] = useState(() => value)
  return opened
}

/**
 * What a form of a record was opened with. The page behind it follows every change; the form does not: a value that
 * somebody else has changed since has to be looked at before the form is saved with the version that the page has now.
 * @param edited the record as the page shows it now; undefined where the form makes a new one, or where it is gone
 * @param values its values now
 * @param typed what stands in the form
 */
export function useOpened<V extends object>(
  edited: { readonly version: number } | undefined,
  values: V,
  typed: () => V,
) {
  const [opened, setOpened] = useState(() => ({ isEdit: edited !== undefined, values }))
  const now = values as Readonly<Record<string, unknown>>
  const then = opened.values as Readonly<Record<string, unknown>>
  const changed =
    opened.isEdit && edited ? Object.keys(values).filter((name) => !sameValue(now[name], then[name])) : []
  const own = changed.length > 0 ? (typed() as Readonly<Record<string, unknown>>) : {}
  return {
    /** The record was removed since. */
    isGone: opened.isEdit && !edited,
    /** What must be looked at before it is saved. */
    contested: changed
      .filter((name) => !sameValue(now[name], own[name]))
      .map((name): Contested => ({ name, theirs: now[name] })),
    /** A value was looked at: what is saved now is known. */
    settle: (name: string) =>
      setOpened((before) => ({ ...before, values: { ...before.values, [name]: now[name] } })),
  }
}
