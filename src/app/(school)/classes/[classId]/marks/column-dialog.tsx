'use client'
import { useFieldArray, useWatch } from 'react-hook-form'
import { inWords, keyOf, takes, type Operand } from '@/core/marks/columns/column'
import { Button } from '@/ui/button'
import { Problem, Tick } from '@/ui/field'
import { useDialogAct } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormSelect, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm, type CommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'
import { sendCommand } from '@/screen/server'
import { nameOfOperand, offeredOperands } from './column-words'
import type { GradebookAnswer, ShownColumn } from './use-gradebook'

interface Chosen {
  operand: Operand
  weight: string
}
interface Values {
  readonly name: string
  readonly does: ShownColumn['does']
  readonly take: number
  readonly shownIn: 'term' | 'year'
  readonly decimals: number
  readonly parts: Chosen[]
  readonly levels: { name: string; from: string }[]
}

/** Creates a calculated column, or changes one: what it does, with what, and what it is called; read back as a sentence. */
export function ColumnDialog({
  classId,
  gradebook,
  column,
  onClose,
}: {
  classId: string
  gradebook: GradebookAnswer
  column: ShownColumn | undefined
  onClose: (saved: boolean, done?: { words: string; run: string | undefined }) => void
}) {
  const opened = useAtOpening(column)
  const edited = opened && gradebook.columns.find((c) => c.id === opened.id)
  const termId = gradebook.term.id
  const values: Values = {
    name: edited?.name ?? '',
    does: edited?.does ?? 'mean',
    take: edited?.take ?? 3,
    shownIn: edited?.termId === null ? 'year' : 'term',
    decimals: edited?.decimals ?? 1,
    parts: (edited?.parts ?? []).map((p) => ({ ...p })),
    levels: (edited?.levels ?? []).map((l) => ({ ...l })),
  }
  const of = useCommandForm('marks.saveColumn', {
    schema: () => import('@/core/marks/columns/inputs').then((m) => m.columnInput),
    values,
    edited: opened ? (edited ?? { version: 0 }) : undefined,
    places: ['name', 'does', 'take', 'decimals', 'parts', 'levels', 'termId'],
    input: ({ shownIn, take, ...v }: Values) => ({
      ...v,
      classId,
      columnId: opened?.id ?? null,
      expectedVersion: edited?.version ?? 0,
      termId: shownIn === 'year' ? null : termId,
      take: takes(v.does) ? take : null,
      parts: v.parts.map((p) => ({ ...p, weight: p.weight.trim().replace(',', '.') })),
      levels: v.levels.map((l) => ({ ...l, from: l.from.trim().replace(',', '.') })),
    }),
    onSaved: (_, { name }, run) => onClose(true, { words: `${name} saved.`, run }),
  })
  const now = useWatch({ control: of.form.control }) as Values
  const removing = useDialogAct(
    (key) =>
      sendCommand(
        'marks.removeColumn',
        { classId, columnId: opened?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    () => onClose(true),
  )
  return (
    <DialogForm
      of={of}
      title={opened ? opened.name : 'Add calculated column'}
      onClose={() => onClose(false)}
      wide
      more={
        opened && (
          <Button kind="quiet" className="ml-auto" busy={removing.busy} onClick={() => void removing.run()}>
            Delete column
          </Button>
        )
      }
    >
      {removing.problem && <Problem>{removing.problem}</Problem>}
      {of.problem('termId') && <Problem>{of.problem('termId')}</Problem>}
      <div className="grid gap-4 sm:grid-cols-3">
        <FormText of={of} name="name" label="Name" autoFocus />
        <FormSelect of={of} name="does" label="It is the">
          <option value="mean">weighted mean</option>
          <option value="sum">sum of points</option>
          <option value="best">mean of the best</option>
          <option value="latest">mean of the latest</option>
          <option value="count">number with a score</option>
        </FormSelect>
        {takes(now.does) && <FormText of={of} name="take" label="How many" number min={1} max={40} />}
        <FormSelect of={of} name="shownIn" label="Shown in">
          <option value="term">{gradebook.term.name}</option>
          <option value="year">all terms of the year</option>
        </FormSelect>
        <FormSelect of={of} name="decimals" label="Decimal places" number>
          {[0, 1, 2, 3].map((d) => (
            <option key={d} value={d}>
              {d}
            </option>
          ))}
        </FormSelect>
      </div>
      {now.parts.length > 0 && (
        <p role="status" className="hint" data-testid="sentence">
          {inWords({ ...now, take: takes(now.does) ? now.take : null }, (o) => nameOfOperand(o, gradebook))}
        </p>
      )}
      <Parts of={of} now={now} gradebook={gradebook} own={opened?.id} />
      <Levels of={of} now={now} />
    </DialogForm>
  )
}

/** What it is worked out from: one tick each, with a weight where it is a mean. */
function Parts({
  of,
  now,
  gradebook,
  own,
}: {
  of: CommandForm<Values>
  now: Values
  gradebook: GradebookAnswer
  own: string | undefined
}) {
  const chosen = new Map(now.parts.map((p, i) => [keyOf(p.operand), { ...p, at: i }]))
  const put = (parts: Chosen[]) => of.form.setValue('parts', parts, { shouldDirty: true })
  return (
    <fieldset className="grid gap-3">
      <legend className="text-[13px] font-bold">Worked out from</legend>
      {of.problem('parts') && <Problem>{of.problem('parts')}</Problem>}
      {offeredOperands(gradebook, { isYear: now.shownIn === 'year', own }).map((group) => (
        <div key={group.title}>
          <p className="text-[12px] text-muted">{group.title}</p>
          <ul className="grid gap-x-6 sm:grid-cols-2">
            {group.operands.map((operand) => {
              const key = keyOf(operand)
              const part = chosen.get(key)
              const name = nameOfOperand(operand, gradebook)
              return (
                <li key={key} className="flex min-h-9 items-center gap-3">
                  <span className="min-w-0 flex-1">
                    <Tick
                      label={name}
                      checked={part !== undefined}
                      onChange={(e) =>
                        put(
                          e.target.checked
                            ? [...now.parts, { operand, weight: '1' }]
                            : now.parts.filter((p) => keyOf(p.operand) !== key),
                        )
                      }
                    />
                    {part && of.problem(`parts.${part.at}`) && (
                      <Problem>{of.problem(`parts.${part.at}`)}</Problem>
                    )}
                  </span>
                  {part && now.does === 'mean' && (
                    <span className="flex items-center gap-2 text-[13px] text-muted">
                      weight
                      <FormCell
                        of={of}
                        name={`parts.${part.at}.weight`}
                        label={`Weight of ${name}`}
                        inputMode="decimal"
                        className="w-16! text-right"
                      />
                    </span>
                  )}
                </li>
              )
            })}
          </ul>
        </div>
      ))}
      <Theirs
        of={of}
        name="parts"
        label="what it is worked out from"
        words={(theirs) => theirs.map((p) => `${nameOfOperand(p.operand, gradebook)} ${p.weight}`).join(', ')}
      />
    </fieldset>
  )
}

/** Names for what the value reaches; none where the number stands for itself. */
function Levels({ of, now }: { of: CommandForm<Values>; now: Values }) {
  const lines = useFieldArray({ control: of.form.control, name: 'levels' })
  return (
    <fieldset className="grid gap-2">
      <legend className="text-[13px] font-bold">Attainment levels, the highest first</legend>
      {of.problem('levels') && <Problem>{of.problem('levels')}</Problem>}
      {lines.fields.map((line, i) => (
        <div key={line.id} className="flex items-center gap-3">
          <FormCell of={of} name={`levels.${i}.name`} label={`Name of level ${i + 1}`} className="max-w-60" />
          <span className="text-[13px] text-muted">from</span>
          <FormCell
            of={of}
            name={`levels.${i}.from`}
            label={`Where level ${i + 1} begins`}
            inputMode="decimal"
            className="w-20! text-right"
          />
          <Button kind="quiet" onClick={() => lines.remove(i)}>
            Remove<span className="sr-only"> level {now.levels[i]?.name || i + 1}</span>
          </Button>
        </div>
      ))}
      <p>
        <Button kind="plain" onClick={() => lines.append({ name: '', from: '0' })}>
          Add a level
        </Button>
      </p>
      <Theirs
        of={of}
        name="levels"
        label="the levels"
        words={(theirs) => theirs.map((l) => `${l.name} from ${l.from}`).join(', ') || 'none'}
      />
    </fieldset>
  )
}
