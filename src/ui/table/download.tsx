'use client'
import { saveFile } from '@/ui/save-file'
import { createContext, useContext, useState } from 'react'
import { Button } from '@/ui/button'
import type { CsvValue } from './as-text'
import { pasted } from './pasted'

/** A list as it is shown. */
export interface ShownList {
  /** The file's name, without its ending. */
  readonly name: string
  readonly header: readonly string[]
  readonly rows: readonly (readonly CsvValue[])[]
}

/** Makes a workbook of a list; undefined when it cannot be made now. Given by whoever can ask the server. */
export const MakeWorkbook = createContext<((list: ShownList) => Promise<Blob | undefined>) | undefined>(
  undefined,
)

/** Offers a list, as it is shown, as a file, for pasting, and on paper. */
export function Download({ list }: { list: () => ShownList }) {
  const [open, setOpen] = useState(false)
  const [said, setSaid] = useState<{ words: string; wrong?: boolean }>()
  const workbook = useContext(MakeWorkbook)
  const unreachable = { words: 'Kedge cannot be reached at the moment. Please try again.', wrong: true }
  async function csv() {
    setSaid(undefined)
    const shown = list()
    const made = await import('./csv').catch(() => undefined)
    if (!made) return setSaid(unreachable)
    saveFile(new Blob([made.toCsv(shown.header, shown.rows)], { type: 'text/csv' }), `${shown.name}.csv`)
  }
  async function xlsx() {
    setSaid(undefined)
    const shown = list()
    const made = await workbook?.(shown)
    if (made) saveFile(made, `${shown.name}.xlsx`)
    else setSaid(unreachable)
  }
  async function copy() {
    const shown = list()
    const done = await navigator.clipboard.writeText(pasted(shown.header, shown.rows)).then(
      () => true,
      () => false,
    )
    setSaid(
      done
        ? { words: `${shown.rows.length} rows copied. Paste them into a spreadsheet.` }
        : { words: 'The browser did not allow copying. Download the list instead.', wrong: true },
    )
  }
  return (
    <>
      <Button kind="plain" aria-expanded={open} onClick={() => setOpen(!open)}>
        Download or print
      </Button>
      {open && (
        <span className="flex flex-wrap gap-1" role="group" aria-label="Download or print">
          <Button kind="quiet" onClick={() => void csv()}>
            Download as CSV
          </Button>
          {workbook && (
            <Button kind="quiet" onClick={() => void xlsx()}>
              Download as XLSX
            </Button>
          )}
          <Button kind="quiet" onClick={() => void copy()}>
            Copy
          </Button>
          <Button kind="quiet" onClick={() => window.print()}>
            Print
          </Button>
        </span>
      )}
      <span
        role={said?.wrong ? 'alert' : 'status'}
        className={`self-center ${said?.wrong ? 'text-port' : 'text-muted'}`}
      >
        {said?.wrong && <span aria-hidden>▲ </span>}
        {said?.words}
      </span>
    </>
  )
}
