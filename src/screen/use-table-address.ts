'use client'
import { parseAsArrayOf, parseAsString, useQueryStates } from 'nuqs'
import { useMemo } from 'react'
import type { TableView } from '@/ui/table/data-table'

const none: string[] = []

/** The view of a table kept in the address, so that a list can be sent to a colleague as it is shown. */
export function useTableAddress(): TableView {
  const [{ q, sort, hide }, set] = useQueryStates(
    {
      q: parseAsString.withDefault(''),
      sort: parseAsString.withDefault(''),
      hide: parseAsArrayOf(parseAsString).withDefault(none),
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
      onHide: (ids) => void set({ hide: ids.length > 0 ? [...ids] : null }),
    }),
    [q, sort, hide, set],
  )
}
