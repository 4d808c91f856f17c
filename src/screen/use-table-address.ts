'use client'
import { parseAsString, useQueryStates } from 'nuqs'
import { useMemo } from 'react'
import type { TableView } from '@/ui/table/data-table'

/** The view of a table kept in the address, so that a list can be sent to a colleague as it is shown. */
export function useTableAddress(): TableView {
  const [{ q, sort }, set] = useQueryStates(
    { q: parseAsString.withDefault(''), sort: parseAsString.withDefault('') },
    { history: 'replace', throttleMs: 200 },
  )
  return useMemo(
    () => ({
      text: q,
      sort,
      onText: (text) => void set({ q: text || null }),
      onSort: (next) => void set({ sort: next || null }),
    }),
    [q, sort, set],
  )
}
