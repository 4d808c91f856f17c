'use client'
import { useFieldArray } from 'react-hook-form'
import { usualCategories } from '@/core/marks/usual-categories'
import { Button } from '@/ui/button'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormSelect } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Book } from './use-gradebook'

interface Values {
  readonly decimals: number
  readonly emptyCounts: 'nothing' | 'zero after due'
  readonly missingCounts: 'nothing' | 'zero'
  readonly categories: { categoryId?: string; name: string; weight: string; dropLowest: number }[]
}

const begin = (book: Book | undefined): Values => ({
  decimals: book?.rules.decimals ?? 1,
  emptyCounts: book?.rules.emptyCounts ?? 'nothing',
  missingCounts: book?.rules.missingCounts ?? 'zero',
  categories:
    book?.categories.map(({ id: categoryId, name, weight, dropLowest }) => ({
      categoryId,
      name,
      weight,
      dropLowest,
    })) ?? usualCategories.map((c) => ({ ...c })),
})

/** Categories, weights and rules. Weights that do not add up to 100 are shown while typing, with what then happens. */
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
  const of = useCommandForm('marks.saveSettings', {
    schema: () => import('@/core/marks/inputs').then((m) => m.settingsInput),
    values: begin(book),
    edited: { version: book?.version ?? 0 },
    places: ['categories', 'decimals', 'emptyCounts', 'missingCounts'],
    input: ({ categories, ...rules }: Values) => ({
      classId,
      termId,
      expectedVersion: book?.version ?? 0,
      ...rules,
      categories: categories.map(({ categoryId: id, ...c }) => ({ ...c, id })),
    }),
    onSaved: () => onClose(true),
  })
  const { control, watch } = of.form
  const lines = useFieldArray({ control, name: 'categories' })
  const total = Number(
    watch('categories')
      .reduce((sum, c) => sum + (Number(c.weight) || 0), 0)
      .toFixed(2),
  )
  return (
    <DialogForm of={of} title="Weights and rules" onClose={() => onClose(false)} wide>
      <table className="rows" aria-label="Categories">
        <thead>
          <tr>
            <th scope="col">Category</th>
            <th scope="col">Weight</th>
            <th scope="col">Lowest dropped</th>
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.fields.map((line, i) => (
            <tr key={line.id}>
              <td>
                <FormCell of={of} name={`categories.${i}.name`} label={`Name of category ${i + 1}`} />
              </td>
              <td>
                <FormCell
                  of={of}
                  name={`categories.${i}.weight`}
                  label={`Weight of ${watch(`categories.${i}.name`)}`}
                  inputMode="decimal"
                  className="w-20 text-right"
                />
              </td>
              <td>
                <FormCell
                  of={of}
                  name={`categories.${i}.dropLowest`}
                  label={`Lowest dropped in ${watch(`categories.${i}.name`)}`}
                  number
                  min={0}
                  max={20}
                  className="w-16 text-right"
                />
              </td>
              <td>
                <Button kind="quiet" onClick={() => lines.remove(i)}>
                  Remove<span className="sr-only"> {watch(`categories.${i}.name`)}</span>
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Theirs
        of={of}
        name="categories"
        label="the categories"
        words={(theirs) =>
          theirs
            .map((c) => `${c.name} ${c.weight}${c.dropLowest > 0 ? `, lowest ${c.dropLowest} dropped` : ''}`)
            .join('; ')
        }
      />
      {of.problem('categories') && (
        <p role="alert" className="text-[13px] text-port">
          <span aria-hidden>▲ </span>
          {of.problem('categories')}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-4">
        <Button kind="plain" onClick={() => lines.append({ name: '', weight: '0', dropLowest: 0 })}>
          Add a category
        </Button>
        <p role="status" className={total === 100 ? 'text-muted' : 'hint'}>
          {total === 100
            ? 'The weights add up to 100.'
            : `The weights add up to ${total}, not 100. You can still save. Each weight will count as a share of ${total}.`}
        </p>
      </div>
      <div className="grid gap-4 sm:grid-cols-3">
        <FormSelect of={of} name="emptyCounts" label="Empty scores">
          <option value="nothing">ignored</option>
          <option value="zero after due">zero after the due date</option>
        </FormSelect>
        <FormSelect of={of} name="missingCounts" label="Missing work">
          <option value="zero">counts as zero</option>
          <option value="nothing">ignored</option>
        </FormSelect>
        <FormSelect
          of={of}
          name="decimals"
          label="Decimal places"
          help="Rounded once, at the end, half up"
          number
        >
          {[0, 1, 2, 3].map((d) => (
            <option key={d} value={d}>
              {d}
            </option>
          ))}
        </FormSelect>
      </div>
      <p className="text-[13px] text-muted">
        A category counts all points earned out of all points possible. The lowest percentages are dropped
        first. The grade follows from the mark as shown.
      </p>
    </DialogForm>
  )
}
