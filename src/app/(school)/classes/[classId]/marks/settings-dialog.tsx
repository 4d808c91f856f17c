'use client'
import { useState } from 'react'
import { useFieldArray, useWatch } from 'react-hook-form'
import { fromHundredths } from '@/core/marks/rational'
import { oddWeights, type GradebookSettings } from '@/core/marks/settings'
import { usualSettings } from '@/core/marks/usual-settings'
import { Button } from '@/ui/button'
import { Problem, Select, Tick } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormSelect, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm, type CommandForm } from '@/screen/form/use-command-form'
import { useAnswer } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import type { Book } from './book'
import { SettingsPreview } from './settings-preview'

type Category = Omit<GradebookSettings['categories'][number], 'was'> & { readonly was?: string }

/** What the fields hold: late work is two fields, of which the second may be unused. */
export interface SettingsValues extends Omit<GradebookSettings, 'categories' | 'late' | 'most'> {
  readonly late: 'nothing' | NonNullable<GradebookSettings['late']>['of']
  readonly latePercent: string
  /** Empty for none. */
  readonly most: string
  readonly categories: Category[]
  /** The gradebook whose columns come along. */
  readonly columnsFrom: { classId: string; termId: string } | null
  /** Further classes that get the same. */
  readonly others: string[]
}

const asValues = ({
  late,
  most,
  categories,
  ...rules
}: GradebookSettings): Omit<SettingsValues, 'others' | 'columnsFrom'> => ({
  ...rules,
  late: late?.of ?? 'nothing',
  latePercent: late?.percent ?? '10',
  most: most ?? '',
  categories: categories.map((c) => ({ ...c })),
})

const settingsOfBook = ({ rules, categories }: Book): GradebookSettings => ({
  ...rules,
  categories: categories.map(({ name, weight, within, dropLowest }) => ({
    was: name,
    name,
    weight,
    within,
    dropLowest,
  })),
})

const begin = (book: Book | undefined): SettingsValues => ({
  ...asValues(book ? settingsOfBook(book) : usualSettings),
  columnsFrom: null,
  others: [],
})

type Offers = QueryOutput<'marks.settingsOffers'>

/** The input of the command, made of what the fields hold. */
function inputOf(
  { late, latePercent, most, categories, columnsFrom, others, ...rules }: SettingsValues,
  about: { classId: string; termId: string; version: number; offers: Offers | undefined },
) {
  const versionOf = (id: string) => about.offers?.targets.find((t) => t.classId === id)?.version ?? 0
  return {
    termId: about.termId,
    targets: [
      { classId: about.classId, expectedVersion: about.version },
      ...others.map((classId) => ({ classId, expectedVersion: versionOf(classId) })),
    ],
    method: rules.method,
    decimals: rules.decimals,
    emptyCounts: rules.emptyCounts,
    missingCounts: rules.missingCounts,
    incompleteCounts: rules.incompleteCounts,
    late: late === 'nothing' ? null : { percent: latePercent.trim().replace(',', '.'), of: late },
    most: most.trim() === '' ? null : most.trim().replace(',', '.'),
    categories: categories.map(({ was, name, weight, within, dropLowest }) => ({
      ...(was === undefined ? {} : { was }),
      name,
      weight: weight.trim().replace(',', '.'),
      within,
      dropLowest,
    })),
    columnsFrom,
  }
}

const savedWords = (gradebooks: number, left: readonly string[]) =>
  [
    gradebooks === 1 ? 'Rules saved.' : `Rules saved for ${gradebooks} gradebooks.`,
    ...(left.length > 0
      ? [`Not copied, because this gradebook lacks what they read: ${left.join(', ')}.`]
      : []),
  ].join(' ')

/** Categories, weights and rules, for one gradebook or several at once, with whose marks would change. */
export function SettingsDialog({
  classId,
  termId,
  book,
  onClose,
}: {
  classId: string
  termId: string
  book: Book | undefined
  /** Told whether anything was saved, and the run that can be undone. */
  onClose: (saved: boolean, done?: { words: string; run: string | undefined }) => void
}) {
  const { answer: offers } = useAnswer('marks.settingsOffers', { classId, termId })
  const about = { classId, termId, version: book?.version ?? 0, offers }
  const of = useCommandForm('marks.saveSettings', {
    schema: () => import('@/core/marks/inputs').then((m) => m.settingsInput),
    values: begin(book),
    edited: { version: book?.version ?? 0 },
    places: [
      'categories',
      'decimals',
      'emptyCounts',
      'missingCounts',
      'incompleteCounts',
      'late',
      'most',
      'method',
      'targets',
      'columnsFrom',
    ],
    input: (values: SettingsValues) => inputOf(values, about),
    onSaved: ({ versions, left }, _, run) => onClose(true, { words: savedWords(versions.length, left), run }),
  })
  const { control } = of.form
  const values = useWatch({ control }) as SettingsValues
  const isPool = values.method === 'points'
  return (
    <DialogForm of={of} title="Weights and rules" onClose={() => onClose(false)} wide>
      <div className="grid gap-4 sm:grid-cols-2">
        <FormSelect of={of} name="method" label="The term mark is made of">
          <option value="weights">categories with weights</option>
          <option value="points">all points together</option>
        </FormSelect>
        {offers && offers.sources.length > 0 && <CopyFrom of={of} now={values} sources={offers.sources} />}
      </div>
      <Categories of={of} isPool={isPool} values={values} />
      <div className="grid gap-4 sm:grid-cols-3">
        <FormSelect of={of} name="emptyCounts" label="Empty scores">
          <option value="nothing">ignored</option>
          <option value="zero after due">zero after the due date</option>
        </FormSelect>
        <FormSelect of={of} name="missingCounts" label="Missing work">
          <option value="zero">counts as zero</option>
          <option value="nothing">ignored</option>
        </FormSelect>
        <FormSelect of={of} name="incompleteCounts" label="Incomplete work">
          <option value="nothing">ignored</option>
          <option value="zero">counts as zero</option>
        </FormSelect>
        <FormSelect of={of} name="late" label="Late work">
          <option value="nothing">loses nothing</option>
          <option value="points scored">loses a part of its points</option>
          <option value="points possible">loses a part of its maximum</option>
        </FormSelect>
        {values.late !== 'nothing' && (
          <FormText of={of} name="latePercent" label="Lost, in per cent" inputMode="decimal" />
        )}
        <FormText
          of={of}
          name="most"
          label="Highest mark, in per cent"
          inputMode="decimal"
          help="Empty: as far as extra credit goes"
        />
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
      {of.problem('late.percent') && <Problem>{of.problem('late.percent')}</Problem>}
      {offers && offers.targets.length > 0 && (
        <fieldset>
          <legend className="text-[13px] font-bold">Also for these gradebooks of yours</legend>
          {of.problem('targets') && <Problem>{of.problem('targets')}</Problem>}
          <div className="flex flex-wrap gap-x-6">
            <ClassTicks
              classes={offers.targets.map((t) => ({ ...t, id: t.classId }))}
              chosen={values.others}
              detail={(t) => (t.version === 0 ? 'not set up yet' : undefined)}
              onChange={(others) => of.form.setValue('others', others, { shouldDirty: true })}
            />
          </div>
        </fieldset>
      )}
      {/* A gradebook that is only set up now has no marks that could change. */}
      {(book || values.others.length > 0) && of.isTyped && <SettingsPreview input={inputOf(values, about)} />}
    </DialogForm>
  )
}

/** Takes over the settings of another term, or of a colleague who teaches the course, with the columns if wanted. */
function CopyFrom({
  of,
  now,
  sources,
}: {
  of: CommandForm<SettingsValues>
  now: SettingsValues
  sources: Offers['sources']
}) {
  const [chosen, setChosen] = useState<Offers['sources'][number]>()
  const put = <K extends keyof SettingsValues>(name: K, value: SettingsValues[K]) =>
    of.form.setValue(name, value as never, { shouldDirty: true })
  const take = (columns: boolean, { classId, termId } = chosen ?? { classId: '', termId: '' }) =>
    put('columnsFrom', columns ? { classId, termId } : null)
  return (
    <div className="grid content-start gap-2">
      <label className="grid gap-1 text-[13px] font-bold">
        Copy from
        <Select
          className="font-normal"
          value={chosen ? `${chosen.classId} ${chosen.termId}` : ''}
          onChange={(e) => {
            const source = sources.find((s) => `${s.classId} ${s.termId}` === e.target.value)
            setChosen(source)
            if (source)
              for (const [name, value] of Object.entries(asValues(source.settings)))
                put(name as keyof SettingsValues, value as never)
            take((source?.columns.length ?? 0) > 0, source)
          }}
        >
          <option value="">Choose a gradebook</option>
          {sources.map((s) => (
            <option key={`${s.classId} ${s.termId}`} value={`${s.classId} ${s.termId}`}>
              {s.name}
            </option>
          ))}
        </Select>
      </label>
      {chosen && chosen.columns.length > 0 && (
        <Tick
          label={`With its columns: ${chosen.columns.join(', ')}`}
          detail="Columns that are here already stay as they are; nothing that was entered is copied."
          checked={now.columnsFrom !== null}
          onChange={(e) => take(e.target.checked)}
        />
      )}
      {of.problem('columnsFrom') && <Problem>{of.problem('columnsFrom')}</Problem>}
    </div>
  )
}

function Categories({
  of,
  isPool,
  values,
}: {
  of: CommandForm<SettingsValues>
  /** All points are one pool: weights do not matter. */
  isPool: boolean
  values: SettingsValues
}) {
  const lines = useFieldArray({ control: of.form.control, name: 'categories' })
  const odd = oddWeights(values)
  const nameOf = (i: number) => values.categories[i]?.name || `category ${i + 1}`
  return (
    <>
      <table className="rows" aria-label="Categories">
        <thead>
          <tr>
            <th scope="col">Category</th>
            {!isPool && <th scope="col">Weight</th>}
            {!isPool && <th scope="col">Counted by</th>}
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
              {!isPool && (
                <td>
                  <FormCell
                    of={of}
                    name={`categories.${i}.weight`}
                    label={`Weight of ${nameOf(i)}`}
                    inputMode="decimal"
                    className="w-20! text-right"
                  />
                </td>
              )}
              {!isPool && (
                <td>
                  <Select
                    className="w-40!"
                    aria-label={`How ${nameOf(i)} is counted`}
                    {...of.form.register(`categories.${i}.within`)}
                  >
                    <option value="points">points</option>
                    <option value="pieces">each piece alike</option>
                  </Select>
                </td>
              )}
              <td>
                <FormCell
                  of={of}
                  name={`categories.${i}.dropLowest`}
                  label={`Lowest dropped in ${nameOf(i)}`}
                  number
                  min={0}
                  max={20}
                  className="w-16! text-right"
                />
              </td>
              <td>
                <Button kind="quiet" onClick={() => lines.remove(i)}>
                  Remove<span className="sr-only"> {nameOf(i)}</span>
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
        <Button
          kind="plain"
          onClick={() => lines.append({ name: '', weight: '0', within: 'points', dropLowest: 0 })}
        >
          Add a category
        </Button>
        <p role="status" className={odd === undefined ? 'text-muted' : 'hint'}>
          {isPool
            ? 'All points earned out of all points possible; categories only group them.'
            : odd === undefined
              ? 'The weights add up to 100.'
              : `The weights add up to ${fromHundredths(odd)}, not 100. You can still save. Each weight will count as a share of ${fromHundredths(odd)}.`}
        </p>
      </div>
    </>
  )
}
