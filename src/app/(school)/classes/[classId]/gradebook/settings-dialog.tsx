'use client'
import { useRef, useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, Select, TextInput } from '@/ui/field'
import { newKey, tellServer, type CallFailure } from '@/screen/server'
import type { Book } from './use-gradebook'

interface Line {
  readonly id?: string
  readonly name: string
  readonly weight: string
  readonly dropLowest: string
}

const usual: readonly Line[] = [
  { name: 'Unit tests', weight: '60', dropLowest: '0' },
  { name: 'Written work', weight: '25', dropLowest: '0' },
  { name: 'Homework', weight: '15', dropLowest: '1' },
]

/** Categories, weights and what counts. Weights that do not make 100 are shown as one types, with what then happens. */
export function SettingsDialog({
  classId,
  termId,
  book,
  onClose,
}: {
  classId: string
  termId: string
  book: Book | undefined
  onClose: (saved: boolean) => void
}) {
  const [lines, setLines] = useState<readonly Line[]>(
    book?.categories.map((c) => ({ ...c, dropLowest: String(c.dropLowest) })) ?? usual,
  )
  const [decimals, setDecimals] = useState(book?.rules.decimals ?? 1)
  const [emptyCounts, setEmptyCounts] = useState(book?.rules.emptyCounts ?? 'nothing')
  const [missingCounts, setMissingCounts] = useState(book?.rules.missingCounts ?? 'zero')
  // The version these settings were opened with, whatever the page shows by now.
  const [seen] = useState(book?.version ?? 0)
  const [failure, setFailure] = useState<CallFailure>()
  const [busy, setBusy] = useState(false)
  const key = useRef(newKey())
  const total = lines.reduce((sum, l) => sum + (Number(l.weight) || 0), 0)
  const change = (i: number, part: Partial<Line>) =>
    setLines(lines.map((l, at) => (at === i ? { ...l, ...part } : l)))
  async function submit(event: FormEvent) {
    event.preventDefault()
    setBusy(true)
    const result = await tellServer(
      'marks.saveSettings',
      {
        classId,
        termId,
        seen,
        decimals,
        emptyCounts,
        missingCounts,
        categories: lines.map((l) => ({
          id: l.id,
          name: l.name,
          weight: l.weight,
          dropLowest: Number(l.dropLowest),
        })),
      },
      key.current,
    )
    setBusy(false)
    if (result.ok) return onClose(true)
    key.current = newKey()
    setFailure(result.failure)
  }
  const problems = new Map(failure?.kind === 'invalid' ? failure.fields.map((f) => [f.path, f.message]) : [])
  return (
    <Dialog title="Weights and rules" onClose={() => onClose(false)} wide>
      <form onSubmit={(e) => void submit(e)} className="grid gap-4" noValidate>
        {failure && <Problem>{failure.message}</Problem>}
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Category</th>
              <th scope="col">Weight</th>
              <th scope="col">Lowest dropped</th>
              <th scope="col">
                <span className="sr-only">Take away</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l, i) => (
              <tr key={l.id ?? i}>
                <td>
                  <TextInput
                    aria-label={`Name of category ${i + 1}`}
                    aria-invalid={problems.has(`categories.${i}.name`) || undefined}
                    value={l.name}
                    onChange={(e) => change(i, { name: e.target.value })}
                  />
                </td>
                <td>
                  <TextInput
                    aria-label={`Weight of ${l.name}`}
                    aria-invalid={problems.has(`categories.${i}.weight`) || undefined}
                    inputMode="decimal"
                    className="w-20 text-right"
                    value={l.weight}
                    onChange={(e) => change(i, { weight: e.target.value })}
                  />
                </td>
                <td>
                  <TextInput
                    aria-label={`Lowest dropped in ${l.name}`}
                    type="number"
                    min={0}
                    max={20}
                    className="w-16 text-right"
                    value={l.dropLowest}
                    onChange={(e) => change(i, { dropLowest: e.target.value })}
                  />
                </td>
                <td>
                  <Button kind="quiet" onClick={() => setLines(lines.filter((_, at) => at !== i))}>
                    Take away<span className="sr-only"> {l.name}</span>
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="flex flex-wrap items-center gap-4">
          <Button
            kind="plain"
            onClick={() => setLines([...lines, { name: '', weight: '0', dropLowest: '0' }])}
          >
            Add a category
          </Button>
          <p role="status" className={total === 100 ? 'text-muted' : 'hint'}>
            {total === 100
              ? 'The weights make 100.'
              : `The weights make ${Number(total.toFixed(2))}, not 100. You can save so; each then counts as its part of ${Number(total.toFixed(2))}.`}
          </p>
        </div>
        <div className="grid gap-4 sm:grid-cols-3">
          <Field label="An empty score counts">
            {(f) => (
              <Select
                {...f}
                value={emptyCounts}
                onChange={(e) => setEmptyCounts(e.target.value as typeof emptyCounts)}
              >
                <option value="nothing">nothing</option>
                <option value="zero after due">zero, once due</option>
              </Select>
            )}
          </Field>
          <Field label="Missing counts">
            {(f) => (
              <Select
                {...f}
                value={missingCounts}
                onChange={(e) => setMissingCounts(e.target.value as typeof missingCounts)}
              >
                <option value="zero">zero</option>
                <option value="nothing">nothing</option>
              </Select>
            )}
          </Field>
          <Field label="Decimals of the mark" help="Rounded once, at the end, half up">
            {(f) => (
              <Select {...f} value={decimals} onChange={(e) => setDecimals(Number(e.target.value))}>
                {[0, 1, 2, 3].map((d) => (
                  <option key={d} value={d}>
                    {d}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        </div>
        <p className="text-[13px] text-muted">
          Within a category all points earned are taken of all points possible. Of several pieces the lowest
          share of points is dropped first. The grade is read from the mark as shown.
        </p>
        <p className="flex gap-3">
          <Button type="submit" busy={busy}>
            Save
          </Button>
          <Button kind="plain" onClick={() => onClose(false)}>
            Give up
          </Button>
        </p>
      </form>
    </Dialog>
  )
}
