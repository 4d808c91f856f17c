'use client'
import { useFieldArray, useWatch } from 'react-hook-form'
import { shortDate } from '@/core/calendar/date-words'
import { bandWords, checkBands } from '@/core/marks/bands'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import type { ScaleFrom } from './scales'

interface Values {
  name: string
  /** Empty from the beginning. */
  startsOn: string
  kind: 'grades' | 'percent'
  bands: { grade: string; fromPercent: string }[]
}

const letters: Values['bands'] = [
  { grade: 'A', fromPercent: '85' },
  { grade: 'B', fromPercent: '70' },
  { grade: 'C', fromPercent: '55' },
  { grade: 'D', fromPercent: '0' },
]

const isNumber = (text: string) => /^\d{1,3}(\.\d{1,2})?$/.test(text.trim()) && Number(text) <= 100

/** A scale: its grades with the percentage from which each is given. What does not fit is said while it is typed. */
export function ScaleDialog({
  scale,
  onClose,
  onSaved,
}: {
  scale: ScaleFrom | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.saveScale', {
    schema: () => import('@/core/marks/scale').then((m) => m.scaleInput),
    values: {
      name: scale?.name ?? '',
      startsOn: scale?.startsOn ?? '',
      kind: scale?.bands.length === 0 ? 'percent' : 'grades',
      bands: scale?.bands.length ? scale.bands.map((b) => ({ ...b })) : letters,
    } as Values,
    edited: scale,
    places: ['name', 'startsOn', 'bands'],
    input: ({ name, startsOn, kind, bands }: Values) => ({
      name,
      startsOn: startsOn || null,
      bands: kind === 'percent' ? [] : bands,
      scaleId: scale?.id ?? null,
      expectedVersion: scale?.version ?? 0,
    }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const from = scale?.startsOn
  const removal = useRemoval(
    (key) => {
      const own = { scaleId: scale?.id ?? '', expectedVersion: scale?.version ?? 0 }
      return from
        ? sendCommand('year.removeScaleChange', { ...own, startsOn: from }, key)
        : sendCommand('year.removeScale', own, key)
    },
    (run) =>
      onSaved(
        from ? `${scale.name} no longer changes on ${shortDate(from, true)}.` : `${scale?.name} was removed.`,
        run,
      ),
  )
  const { control } = of.form
  const rows = useFieldArray({ control, name: 'bands' })
  const [kind, bands] = useWatch({ control, name: ['kind', 'bands'] })
  const problems = new Map(checkBands(bands).map((p) => [`bands.${p.path.join('.')}`, p.message]))
  const problem = (path: string) => problems.get(path) ?? of.problem(path)
  const whole = bands.filter((b) => b.grade.trim() && isNumber(b.fromPercent))
  return (
    <DialogForm
      of={of}
      title={scale ? `${scale.name}${from ? ` from ${shortDate(from, true)}` : ''}` : 'Add a scale'}
      description={
        scale && scale.classes > 0
          ? `${scale.classes === 1 ? '1 class uses' : `${scale.classes} classes use`} it: their grades follow at once, except where marks are confirmed.`
          : undefined
      }
      save={scale ? 'Save' : 'Add'}
      wide
      onClose={onClose}
      more={scale && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormText of={of} name="name" label="Name" />
      {scale && !from && (
        <FormDate
          of={of}
          name="startsOn"
          label="Change from"
          help="Empty: for all marks that are not confirmed. With a date, the grades below hold for terms that end on that day or later; before, they stay as they are."
        />
      )}
      <FormSelect of={of} name="kind" label="Shows">
        <option value="grades">Percent and grades</option>
        <option value="percent">Percent only</option>
      </FormSelect>
      {kind === 'grades' && (
        <fieldset className="grid gap-2">
          <legend className="mb-1 text-[13px] font-bold">
            Grades, each with the percentage it begins at
          </legend>
          {problem('bands') && <Problem>{problem('bands')}</Problem>}
          {rows.fields.map((row, i) => (
            <div key={row.id} className="grid grid-cols-[1fr_1fr_auto] items-start gap-2">
              <div>
                <FormCell of={{ ...of, problem }} name={`bands.${i}.grade`} label={`Grade ${i + 1}`} />
              </div>
              <div>
                <FormCell
                  of={{ ...of, problem }}
                  name={`bands.${i}.fromPercent`}
                  label={`Grade ${i + 1} from percent`}
                  inputMode="decimal"
                />
              </div>
              <Button kind="quiet" disabled={rows.fields.length <= 2} onClick={() => rows.remove(i)}>
                Remove<span className="sr-only"> grade {bands[i]?.grade}</span>
              </Button>
            </div>
          ))}
          <p>
            <Button
              kind="plain"
              disabled={rows.fields.length >= 20}
              onClick={() => rows.append({ grade: '', fromPercent: '' })}
            >
              Add a grade
            </Button>
          </p>
        </fieldset>
      )}
      <Theirs of={of} name="bands" label="the grades" words={(theirs) => bandWords(theirs).join('; ')} />
      {kind === 'grades' && <p className="text-[13px] text-muted">{bandWords(whole).join('; ')}</p>}
    </DialogForm>
  )
}
