'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import type { CsvValue } from './csv'

/** Offers a list, as it is shown, as a CSV file. What makes it is fetched when it is used. */
export function Download({
  name,
  header,
  rows,
}: {
  /** The file's name, without its ending. */
  name: string
  header: readonly string[]
  rows: () => readonly (readonly CsvValue[])[]
}) {
  const [problem, setProblem] = useState(false)
  async function save() {
    setProblem(false)
    const made = await import('./csv').catch(() => undefined)
    if (!made) return setProblem(true)
    const address = URL.createObjectURL(new Blob([made.toCsv(header, rows())], { type: 'text/csv' }))
    const link = Object.assign(document.createElement('a'), { href: address, download: `${name}.csv` })
    link.click()
    setTimeout(() => URL.revokeObjectURL(address), 60_000)
  }
  return (
    <>
      <Button kind="plain" onClick={() => void save()}>
        Download as CSV
      </Button>
      {problem && (
        <span role="alert" className="self-center text-port">
          <span aria-hidden>▲ </span>
          Kedge cannot be reached at the moment. Please try again.
        </span>
      )}
    </>
  )
}
