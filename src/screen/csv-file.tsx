'use client'
import { Problem } from '@/ui/field'
import { readCsv } from './read-csv'

/**
 * Chooses a CSV file and reads it.
 * @param onRead takes the rows, and answers what is wrong with them
 * @param onProblems is told what is wrong with the file or its rows; nothing when all is well
 */
export function CsvPick({
  label,
  onRead,
  onProblems,
}: {
  label: string
  onRead: (rows: readonly (readonly string[])[]) => readonly string[]
  onProblems: (problems: readonly string[]) => void
}) {
  async function read(file: File | undefined) {
    if (!file) return
    const csv = await readCsv(file)
    onProblems('problem' in csv ? [csv.problem] : onRead(csv.rows))
  }
  return (
    <label className="link cursor-pointer focus-within:outline-2 focus-within:outline-magenta">
      {label}
      <input
        type="file"
        accept=".csv,text/csv"
        className="sr-only"
        onChange={(e) => {
          void read(e.target.files?.[0])
          e.target.value = ''
        }}
      />
    </label>
  )
}

/** Why nothing was read from a file, or from what was pasted: its first problems. */
export function UnreadFile({ problems, from = 'the file' }: { problems: readonly string[]; from?: string }) {
  const most = 8
  if (problems.length === 0) return null
  return (
    <Problem>
      Nothing was read from {from}.
      <ul className="ml-5 list-disc">
        {problems.slice(0, most).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {problems.length > most && <p>and {problems.length - most} more</p>}
    </Problem>
  )
}
