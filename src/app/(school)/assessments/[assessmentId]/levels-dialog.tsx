'use client'
import { standardName } from '@/core/assessment/standards'
import { useFieldArray } from 'react-hook-form'
import { otherMeasure, unreachable, type Level, type Threshold } from '@/core/assessment/levels'
import { mostOf } from '@/core/assessment/scoring'
import { limits } from '@/core/limits'
import { Button } from '@/ui/button'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormSelect } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Key } from './use-key'

type Measure = 'percent' | 'points'

interface Values {
  readonly measure: Measure
  readonly levels: { name: string; from: string }[]
  readonly standards: { standardId: string; from: string[] }[]
}

const typed = (from: Threshold | null | undefined) =>
  !from ? '' : 'percent' in from ? from.percent : from.points
const isTyped = (text: string) => /^\d{1,7}([.,]\d{1,2})?$/.test(text.trim())
const threshold = (text: string, measure: Measure): Threshold => {
  const value = text.trim().replace(',', '.')
  return measure === 'percent' ? { percent: value } : { points: value }
}

const levelsIn = ({ levels, measure }: Pick<Values, 'levels' | 'measure'>): readonly Level[] =>
  levels.map(({ name, from }, i) => ({
    name,
    from: i === levels.length - 1 ? null : threshold(from, measure),
  }))

function begin(server: Key, used: readonly string[]): Values {
  const measured = [...server.levels.map((l) => l.from), ...server.standards.flatMap((s) => s.from)]
  return {
    measure: measured.some((from) => from && 'points' in from) ? 'points' : 'percent',
    levels: server.levels.map(({ name, from }) => ({ name, from: typed(from) })),
    standards: used.map((standardId) => ({
      standardId,
      from: server.levels
        .slice(0, -1)
        .map((_, i) => typed(server.standards.find((s) => s.standardId === standardId)?.from[i])),
    })),
  }
}

/** Levels of an assessment: their names, where each begins, and where it begins for single standards. */
export function LevelsDialog({ server, onClose }: { server: Key; onClose: (saved: boolean) => void }) {
  const { questions } = server
  const used = [...new Set(questions.flatMap((q) => q.standardIds))]
  const of = useCommandForm('assessment.setLevels', {
    schema: () => import('@/core/assessment/inputs').then((m) => m.levelsInput),
    values: begin(server, used),
    edited: { version: server.version },
    places: ['levels', 'standards', 'measure'],
    input: (values: Values) => ({
      assessmentId: server.id,
      expectedVersion: server.version,
      levels: [...levelsIn(values)],
      // A standard with nothing typed begins where the whole does.
      standards: values.standards.flatMap(({ standardId, from }) => {
        const own = from.slice(0, values.levels.length - 1)
        return own.some((text) => text.trim() !== '')
          ? [{ standardId, from: own.map((text) => threshold(text, values.measure)) }]
          : []
      }),
    }),
    onSaved: () => onClose(true),
  })
  const { control, watch } = of.form
  const lines = useFieldArray({ control, name: 'levels' })
  const [levels, measure] = [watch('levels'), watch('measure')]
  const unit = measure === 'percent' ? '%' : 'points'
  const complete = levels.every(({ from }, i) => i === levels.length - 1 || isTyped(from))
  const empty = complete ? unreachable(levelsIn({ levels, measure }), questions) : []
  return (
    <DialogForm of={of} title="Levels" onClose={() => onClose(false)} wide>
      <FormSelect of={of} name="measure" label="Levels begin at">
        <option value="percent">a share of the points, in percent</option>
        <option value="points">a number of points</option>
      </FormSelect>
      <table className="rows" aria-label="Levels">
        <thead>
          <tr>
            <th scope="col">Level, the highest first</th>
            <th scope="col">From</th>
            <th scope="col">That is</th>
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.fields.map((line, i) => {
            const isLast = i === lines.fields.length - 1
            const { name = '', from = '' } = levels[i] ?? {}
            return (
              <tr key={line.id}>
                <td>
                  <FormCell of={of} name={`levels.${i}.name`} label={`Name of level ${i + 1}`} />
                </td>
                <td>
                  {isLast ? (
                    <span className="text-muted">everybody else</span>
                  ) : (
                    <span className="flex items-center gap-2">
                      <FormCell
                        of={of}
                        name={`levels.${i}.from`}
                        label={`${name} from, in ${unit}`}
                        inputMode="decimal"
                        className="w-20! text-right"
                      />
                      {unit}
                    </span>
                  )}
                </td>
                <td className="text-muted">
                  {!isLast && isTyped(from) && otherMeasure(threshold(from, measure), mostOf(questions))}
                  {empty.includes(i) && (
                    <span className="block text-port">
                      <span aria-hidden>▲ </span>nobody can reach it with these points
                    </span>
                  )}
                </td>
                <td>
                  {lines.fields.length > 2 && !isLast && (
                    <Button kind="quiet" onClick={() => lines.remove(i)}>
                      Remove<span className="sr-only"> {name}</span>
                    </Button>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <Theirs
        of={of}
        name="levels"
        label="the levels"
        words={(theirs) => theirs.map((l) => `${l.name} ${l.from}`).join('; ')}
      />
      {lines.fields.length < limits.levels && (
        <p>
          <Button kind="plain" onClick={() => lines.insert(lines.fields.length - 1, { name: '', from: '' })}>
            Add a level
          </Button>
        </p>
      )}
      {used.length > 0 && <OwnLevels of={of} server={server} measure={unit} />}
    </DialogForm>
  )
}

/** Where levels begin for single standards; left empty, they begin where those of the whole do. */
function OwnLevels({
  of,
  server,
  measure,
}: {
  of: ReturnType<typeof useCommandForm<'assessment.setLevels', Values>>
  server: Key
  measure: string
}) {
  const [levels, standards] = [of.form.watch('levels'), of.form.watch('standards')]
  const named = new Map(server.knownStandards.map((t) => [t.id, standardName(t)]))
  return (
    <section>
      <h3 className="mb-1 font-bold">For single learning standards</h3>
      <p className="mb-2 text-[13px] text-muted">
        In {measure}. Leave a standard empty when its levels begin at the same shares as those of the whole.
      </p>
      <table className="rows" aria-label="Levels of learning standards">
        <thead>
          <tr>
            <th scope="col">Standard</th>
            {levels.slice(0, -1).map((level, i) => (
              <th key={i} scope="col">
                {level.name} from
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {standards.map(({ standardId }, row) => (
            <tr key={standardId}>
              <th scope="row">{named.get(standardId)}</th>
              {levels.slice(0, -1).map((level, i) => (
                <td key={i}>
                  <FormCell
                    of={of}
                    name={`standards.${row}.from.${i}`}
                    label={`${named.get(standardId)}: ${level.name} from, in ${measure}`}
                    inputMode="decimal"
                    className="w-20! text-right"
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <Theirs
        of={of}
        name="standards"
        label="the levels of single standards"
        words={(theirs) => theirs.map((s) => `${named.get(s.standardId)} ${s.from.join(', ')}`).join('; ')}
      />
    </section>
  )
}
