import { useMemo, useState } from 'react'
import type { TableView } from './column'

/** The view of a table whose narrowing nobody else needs to find. */
export function useTableView(): TableView {
  const [text, onText] = useState('')
  const [sort, onSort] = useState('')
  const [hidden, onHide] = useState<readonly string[]>([])
  const [only, setOnly] = useState<Readonly<Record<string, string>>>({})
  return useMemo(
    () => ({
      text,
      sort,
      hidden,
      only,
      onText,
      onSort,
      onHide,
      onOnly: (id, value) => setOnly({ ...only, [id]: value }),
    }),
    [text, sort, hidden, only],
  )
}
