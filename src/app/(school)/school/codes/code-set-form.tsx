'use client'
import { useState } from 'react'
import { useFieldArray, useWatch } from 'react-hook-form'
import { checkCodeSet, meaningWords } from '@/core/attendance/code-set'
import { readCodesCsv, type CsvCode } from '@/core/attendance/codes-csv'
import { meanings } from '@/core/attendance/codes'
import { addDays } from '@/core/calendar/school-year'
import { Across } from '@/ui/across'
import { Button } from '@/ui/button'
import { Problem, Select } from '@/ui/field'
import { CsvPick, UnreadFile } from '@/screen/csv-file'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { FormCell, FormDate, FormProblems, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { newKey, sendCommand } from '@/screen/server'
import type { CodeSet } from './codes'

type Row = CsvCode & { id: string }

interface Values {
  name: string
  firstDay: string
  lastDay: string
  codes: Row[]
}

const rowOf = (c: CodeSet['codes'][number]): Row => ({
  id: c.id,
  code: c.code,
  label: c.label,
  familyLabel: c.familyLabel ?? '',
  meaning: c.meaning,
  needsMinutes: c.needsMinutes,
  needsNote: c.needsNote,
  officeOnly: c.officeOnly,
})

const emptyRow = (): Row => ({
  id: newKey(),
  code: '',
  label: '',
  familyLabel: '',
  meaning: 'absent with reason',
  needsMinutes: false,
  needsNote: false,
  officeOnly: false,
})

const ticks = [
  ['needsMinutes', 'Minutes required'],
  ['needsNote', 'Note required'],
  ['officeOnly', 'Office only'],
] as const

/** Which marks lack by the codes as they are now what they did not need before. */
function lackingWords({ lackMinutes, lackNotes }: { lackMinutes: number; lackNotes: number }): string {
  const marks = (n: number) => (n === 1 ? '1 mark lacks' : `${n} marks lack`)
  return [
    lackMinutes > 0 && ` ${marks(lackMinutes)} the minutes late that its code asks for.`,
    lackNotes > 0 && ` ${marks(lackNotes)} the note that its code asks for.`,
  ]
    .filter(Boolean)
    .join('')
}

/** What is wrong with a cell, under it. */
function CellProblem({ children }: { children: string | undefined }) {
  if (!children) return null
  return (
    <span role="alert" className="block text-[13px] text-port">
      <span aria-hidden>▲ </span>
      {children}
    </span>
  )
}

/** A set of attendance codes as one form: what is wrong is said while it is typed. */
export function CodeSetForm({
  set,
  like,
  today,
  onClose,
  onSaved,
}: {
  set: CodeSet | undefined
  /** The set whose codes it begins with. */
  like: CodeSet | undefined
  today: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('attendance.saveCodeSet', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.codeSetInput),
    values: {
      name: set?.name ?? '',
      firstDay: set?.firstDay ?? addDays(today, 1),
      lastDay: set?.lastDay ?? '',
      codes: (like?.codes ?? []).map((c) => (set ? rowOf(c) : { ...rowOf(c), id: newKey() })),
    } as Values,
    places: ['name', 'firstDay', 'lastDay', 'codes'],
    edited: set,
    input: (v: Values) => ({
      ...v,
      setId: set?.id ?? null,
      expectedVersion: set?.version ?? 0,
      codes: v.codes.map(
        ({ id, code, label, familyLabel, meaning, needsMinutes, needsNote, officeOnly }) => ({
          id,
          code,
          label,
          familyLabel,
          meaning,
          needsMinutes,
          needsNote,
          officeOnly,
        }),
      ),
    }),
    onSaved: (saved, { name }, run) => onSaved(`${name} was saved.${lackingWords(saved)}`, run),
  })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'attendance.removeCodeSet',
        { setId: set?.id ?? '', expectedVersion: set?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`${set?.name} was removed.`, run),
  )
  const { control, register } = of.form
  const rows = useFieldArray({ control, name: 'codes', keyName: 'key' })
  const codes = useWatch({ control, name: 'codes' }) as readonly Row[]
  const problems = new Map(checkCodeSet(codes).map((p) => [['codes', ...p.path].join('.'), p.message]))
  const problem = (path: string) => problems.get(path) ?? of.problem(path)
  const [unread, setUnread] = useState<readonly string[]>([])
  const used = new Map((set?.codes ?? []).map((c) => [c.id, c]))
  const turned = codes.filter((c) => {
    const was = used.get(c.id)
    return was && was.marks > 0 && was.meaning !== c.meaning
  })
  function read(table: readonly (readonly string[])[]): readonly string[] {
    const found = readCodesCsv(table)
    if (found.problems.length > 0) return found.problems
    const ids = new Map(codes.map((c) => [c.code.trim().toUpperCase(), c.id]))
    rows.replace(found.codes.map((c) => ({ ...c, id: ids.get(c.code) ?? newKey() })))
    return []
  }
  return (
    <form method="post" onSubmit={of.submit} noValidate className="grid gap-4">
      <FormProblems of={of} summary />
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <div className="grid gap-4 sm:grid-cols-3">
        <FormText of={of} name="name" label="Name" placeholder="Codes from January" />
        <FormDate
          of={of}
          name="firstDay"
          label="First day of use"
          help={
            set ? undefined : 'The set in use until then ends the day before. Older registers keep theirs.'
          }
        />
        <FormDate of={of} name="lastDay" label="Last day of use" help="Empty: until another set starts" />
      </div>
      <Theirs
        of={of}
        name="codes"
        label="the codes"
        words={(theirs) => theirs.map((c) => `${c.code} ${c.label}`).join(', ')}
      />
      {problem('codes') && <Problem>{problem('codes')}</Problem>}
      <Across label="Codes">
        <table className="rows table-fixed min-w-3xl" aria-label="Codes of the set">
          <thead>
            <tr>
              <th scope="col" className="w-18">
                Code
              </th>
              <th scope="col">Label</th>
              <th scope="col">Label for families</th>
              <th scope="col" className="w-52">
                Meaning
              </th>
              {ticks.map(([field, title]) => (
                <th key={field} scope="col" className="w-16 text-center">
                  {title}
                </th>
              ))}
              <th scope="col" className="w-16 text-right">
                Marks
              </th>
              <th scope="col" className="w-16">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.fields.map((row, i) => {
              const now = codes[i] ?? row
              const marks = used.get(now.id)?.marks ?? 0
              const name = now.code || `row ${i + 1}`
              return (
                <tr key={row.key} className="align-top">
                  <td>
                    <FormCell
                      of={{ ...of, problem }}
                      name={`codes.${i}.code`}
                      label={`Code ${i + 1}`}
                      maxLength={5}
                    />
                  </td>
                  <td>
                    <FormCell of={{ ...of, problem }} name={`codes.${i}.label`} label={`Label of ${name}`} />
                  </td>
                  <td>
                    <FormCell
                      of={{ ...of, problem }}
                      name={`codes.${i}.familyLabel`}
                      label={`Label of ${name} for families`}
                      placeholder={now.label}
                    />
                  </td>
                  <td>
                    <Select aria-label={`Meaning of ${name}`} {...register(`codes.${i}.meaning`)}>
                      {meanings.map((m) => (
                        <option key={m} value={m}>
                          {meaningWords[m]}
                        </option>
                      ))}
                    </Select>
                  </td>
                  {ticks.map(([field, title]) => (
                    <td key={field} className="pt-3! text-center">
                      <input
                        type="checkbox"
                        className="size-4 accent-ink pointer-coarse:size-6"
                        aria-label={`${title}, ${name}`}
                        {...register(`codes.${i}.${field}`)}
                      />
                      {field === 'needsMinutes' && (
                        <CellProblem>{problem(`codes.${i}.${field}`)}</CellProblem>
                      )}
                    </td>
                  ))}
                  <td className="pt-3! text-right">{marks.toLocaleString('en-GB')}</td>
                  <td>
                    <Button
                      kind="quiet"
                      disabled={marks > 0}
                      title={marks > 0 ? 'Marks use this code' : undefined}
                      onClick={() => rows.remove(i)}
                    >
                      Remove<span className="sr-only"> {name}</span>
                    </Button>
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </Across>
      <div className="flex flex-wrap items-center gap-3">
        <Button kind="plain" disabled={rows.fields.length >= 60} onClick={() => rows.append(emptyRow())}>
          Add a code
        </Button>
        <CsvPick label="Read codes from a CSV file" onRead={read} onProblems={setUnread} />
      </div>
      <UnreadFile problems={unread} />
      {turned.map((c) => (
        <p key={c.id} className="hint" role="status">
          {used.get(c.id)?.marks} marks use {c.code}. They will count as{' '}
          <strong>{meaningWords[c.meaning].toLowerCase()}</strong> in all figures from now on.
        </p>
      ))}
      <p className="flex gap-3">
        <Button type="submit" busy={of.busy}>
          {set ? 'Save' : 'Start this set'}
        </Button>
        <Button kind="plain" onClick={onClose}>
          Cancel
        </Button>
        {set && <RemoveButton of={removal} />}
      </p>
    </form>
  )
}
