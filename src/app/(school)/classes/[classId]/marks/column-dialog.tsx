'use client'
import { useFieldArray, useWatch } from 'react-hook-form'
import { inWords, isCalculated, keyOf, takes, type Doing, type Operand } from '@/core/marks/columns/column'
import { nameOfOperand } from '@/core/marks/columns/words'
import { Button } from '@/ui/button'
import { Problem, Tick } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'
import { useDialogAct } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormSelect, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm, type CommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'
import { sendCommand } from '@/screen/server'
import { useAnswer } from '@/screen/use-live'
import { namesIn, offeredOperands } from './column-words'
import type { GradebookAnswer, ShownColumn } from './book'

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
  readonly choices: { name: string; value: string; was: string | null }[]
  readonly others: string[]
}

const isWorkedOut = (does: Values['does']): does is Doing => does !== 'choice' && does !== 'number'
const decimal = (text: string) => text.trim().replace(',', '.')

/**
 * Creates a column beside the assignments, or changes one: calculated, with what it does and with what, read back as a
 * sentence; or entered by hand, from a list or as a number.
 */
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
  const formula = edited && isCalculated(edited) ? edited : undefined
  const list = edited && !isCalculated(edited) ? edited : undefined
  const values: Values = {
    name: edited?.name ?? '',
    does: edited?.does ?? 'mean',
    take: formula?.take ?? 3,
    shownIn: edited?.termId === null ? 'year' : 'term',
    decimals: formula?.decimals ?? 1,
    parts: (formula?.parts ?? []).map((p) => ({ ...p })),
    levels: (formula?.levels ?? []).map((l) => ({ ...l })),
    choices: (list?.choices ?? []).map((c) => ({ name: c.name, value: c.value ?? '', was: c.name })),
    others: [],
  }
  const of = useCommandForm('marks.saveColumn', {
    schema: () => import('@/core/marks/columns/inputs').then((m) => m.columnInput),
    values,
    edited: opened ? (edited ?? { version: 0 }) : undefined,
    places: ['name', 'does', 'take', 'decimals', 'parts', 'levels', 'choices', 'termId', 'others'],
    input: ({ shownIn, name, does, take, decimals, parts, levels, choices, others }: Values) => {
      const shared = {
        classId,
        columnId: opened?.id ?? null,
        expectedVersion: edited?.version ?? 0,
        termId: shownIn === 'year' ? null : termId,
        name,
        others,
      }
      if (!isWorkedOut(does))
        return {
          ...shared,
          does,
          choices: does === 'number' ? [] : choices.map((c) => ({ ...c, value: decimal(c.value) || null })),
        }
      return {
        ...shared,
        does,
        take: takes(does) ? take : null,
        decimals,
        parts: parts.map((p) => ({ ...p, weight: decimal(p.weight) })),
        levels: levels.map((l) => ({ ...l, from: decimal(l.from) })),
      }
    },
    onSaved: ({ classes }, { name }, run) =>
      onClose(true, {
        words: classes > 1 ? `${name} added to ${classes} gradebooks.` : `${name} saved.`,
        run,
      }),
  })
  const now = useWatch({ control: of.form.control }) as Values
  const formulaNow = isWorkedOut(now.does) ? { ...now, does: now.does } : undefined
  const offersFormulas = !opened || isCalculated(opened)
  const offersEntry = !opened || !isCalculated(opened)
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
      title={opened ? opened.name : 'Add column'}
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
        <FormSelect of={of} name="does" label="It holds">
          {offersFormulas && (
            <optgroup label="Calculated">
              <option value="mean">weighted mean</option>
              <option value="sum">sum of points</option>
              <option value="best">mean of the best</option>
              <option value="latest">mean of the latest</option>
              <option value="count">number with a score</option>
            </optgroup>
          )}
          {offersEntry && (
            <optgroup label="Entered by hand">
              {opened?.does !== 'number' && <option value="choice">one of a list</option>}
              {opened?.does !== 'choice' && <option value="number">a number</option>}
            </optgroup>
          )}
        </FormSelect>
        {formulaNow && takes(formulaNow.does) && (
          <FormText of={of} name="take" label="How many" number min={1} max={40} />
        )}
        <FormSelect of={of} name="shownIn" label="Shown in">
          <option value="term">{gradebook.term.name}</option>
          <option value="year">all terms of the year</option>
        </FormSelect>
        {formulaNow && (
          <FormSelect of={of} name="decimals" label="Decimal places" number>
            {[0, 1, 2, 3].map((d) => (
              <option key={d} value={d}>
                {d}
              </option>
            ))}
          </FormSelect>
        )}
      </div>
      {formulaNow && now.parts.length > 0 && (
        <p role="status" className="hint" data-testid="sentence">
          {inWords({ ...formulaNow, take: takes(formulaNow.does) ? now.take : null }, (o) =>
            nameOfOperand(o, namesIn(gradebook)),
          )}
        </p>
      )}
      {formulaNow && <Parts of={of} now={now} gradebook={gradebook} own={opened?.id} />}
      {formulaNow && <Levels of={of} now={now} />}
      {now.does === 'choice' && <Choices of={of} now={now} />}
      {!opened && <AlsoIn of={of} now={now} classId={classId} termId={termId} />}
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
  const names = namesIn(gradebook)
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
              const name = nameOfOperand(operand, names)
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
        words={(theirs) => theirs.map((p) => `${nameOfOperand(p.operand, names)} ${p.weight}`).join(', ')}
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

/** What can be chosen in a column that is entered by hand. */
function Choices({ of, now }: { of: CommandForm<Values>; now: Values }) {
  const lines = useFieldArray({ control: of.form.control, name: 'choices' })
  return (
    <fieldset className="grid gap-2">
      <legend className="text-[13px] font-bold">What can be chosen, in this order</legend>
      {of.problem('choices') && <Problem>{of.problem('choices')}</Problem>}
      {lines.fields.map((line, i) => (
        <div key={line.id} className="flex flex-wrap items-center gap-3">
          <FormCell
            of={of}
            name={`choices.${i}.name`}
            label={`Name of choice ${i + 1}`}
            className="max-w-60"
          />
          <span className="text-[13px] text-muted">counts as</span>
          <FormCell
            of={of}
            name={`choices.${i}.value`}
            label={`What choice ${i + 1} counts as in formulas; empty for nothing`}
            inputMode="decimal"
            className="w-20! text-right"
          />
          <Button kind="quiet" onClick={() => lines.remove(i)}>
            Remove<span className="sr-only"> choice {now.choices[i]?.name || i + 1}</span>
          </Button>
        </div>
      ))}
      <p className="flex flex-wrap items-center gap-4">
        <Button kind="plain" onClick={() => lines.append({ name: '', value: '', was: null })}>
          Add a choice
        </Button>
        <span className="text-[12px] text-muted">
          What a choice counts as is for calculated columns; leave it empty where it is only a word.
        </span>
      </p>
      <Theirs
        of={of}
        name="choices"
        label="what can be chosen"
        words={(theirs) => theirs.map((c) => c.name).join(', ') || 'none'}
      />
    </fieldset>
  )
}

/** The other gradebooks of the term that can have the same column: what it reads must be there as well. */
function AlsoIn({
  of,
  now,
  classId,
  termId,
}: {
  of: CommandForm<Values>
  now: Values
  classId: string
  termId: string
}) {
  const { answer } = useAnswer('marks.settingsOffers', { classId, termId })
  const targets = (answer?.targets ?? []).filter((t) => t.version > 0)
  const isShared = now.parts.every((p) => p.operand.of === 'marks' || p.operand.of === 'category')
  if (targets.length === 0 || (isWorkedOut(now.does) && !isShared)) return null
  return (
    <fieldset>
      <legend className="text-[13px] font-bold">Also in</legend>
      {of.problem('others') && <Problem>{of.problem('others')}</Problem>}
      <div className="flex flex-wrap gap-x-6">
        <ClassTicks
          classes={targets.map((t) => ({ id: t.classId, name: t.name }))}
          chosen={now.others}
          onChange={(next) => of.form.setValue('others', next, { shouldDirty: true })}
        />
      </div>
    </fieldset>
  )
}
