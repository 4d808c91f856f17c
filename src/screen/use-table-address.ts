'use client'
import { createSerializer, parseAsArrayOf, parseAsString, useQueryStates } from 'nuqs'
import { useMemo } from 'react'
import type { TableView } from '@/ui/table/column'

const none: string[] = []

/** What is chosen in a column stands as `homeroom:7 Tern`. */
const asRecord = (parts: readonly string[]): Readonly<Record<string, string>> =>
  Object.fromEntries(
    parts.flatMap((part) => {
      const at = part.indexOf(':')
      return at > 0 ? [[part.slice(0, at), part.slice(at + 1)]] : []
    }),
  )
const asParts = (record: Readonly<Record<string, string>>) =>
  Object.entries(record).flatMap(([id, value]) => (value ? [`${id}:${value}`] : []))

/** The address of a list narrowed to some kinds, by column. */
export const narrowedTo = (path: string, only: Readonly<Record<string, string>>): string =>
  createSerializer({ only: parseAsArrayOf(parseAsString) })(path, { only: asParts(only) })

/** The view of a table kept in the address, so that a list can be sent to a colleague as it is shown. */
export function useTableAddress(): TableView {
  const [{ q, sort, hide, only }, set] = useQueryStates(
    {
      q: parseAsString.withDefault(''),
      sort: parseAsString.withDefault(''),
      hide: parseAsArrayOf(parseAsString).withDefault(none),
      only: parseAsArrayOf(parseAsString).withDefault(none),
    },
    { history: 'replace', throttleMs: 200 },
  )
  return useMemo(
    () => ({
      text: q,
      sort,
      hidden: hide,
      onText: (text) => void set({ q: text || null }),
      onSort: (next) => void set({ sort: next || null }),
      only: asRecord(only),
      onOnly: (id, value) => {
        const parts = asParts({ ...asRecord(only), [id]: value })
        void set({ only: parts.length > 0 ? parts : null })
      },
      onHide: (ids) => void set({ hide: ids.length > 0 ? [...ids] : null }),
    }),
    [q, sort, hide, only, set],
  )
}
