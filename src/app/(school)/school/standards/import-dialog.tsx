'use client'
import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import { readCase } from '@/core/assessment/case'
import { readStandardRows } from '@/core/assessment/standards-csv'
import { inTree, type ReadStandards, type StandardSet } from '@/core/assessment/standards'
import { limits } from '@/core/limits'
import { UnreadFile } from '@/screen/csv-file'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { readCsv } from '@/screen/read-csv'
import { Field } from '@/ui/field'
import type { Set, Sets } from './sets'

interface Values {
  readonly name: string
  readonly subjectId: string
  /** The set that is replaced; empty for a new one. */
  readonly setId: string
}

async function readFile(file: File): Promise<ReadStandards> {
  if (file.size > limits.upload) return { problems: [`${file.name} is too large to be a file of standards.`] }
  if (!/\.csv$/i.test(file.name)) return readCase(await file.text())
  const csv = await readCsv(file)
  return 'problem' in csv ? { problems: [csv.problem] } : readStandardRows(csv.rows, file.name)
}

/** Gives what was read its identifiers here: those of the set that it goes into where it is known, others are new. */
function identified(read: StandardSet, into: Set | undefined) {
  const bySource = new Map(into?.standards.flatMap((s) => (s.source ? [[s.source, s.id] as const] : [])))
  const byCode = new Map(into?.standards.flatMap((s) => (s.code ? [[s.code, s.id] as const] : [])))
  const taken = new globalThis.Set<string>()
  const ids = new Map(
    read.standards.map((s) => {
      const known = (s.source && bySource.get(s.source)) ?? (s.code && byCode.get(s.code)) ?? undefined
      const id = known && !taken.has(known) ? known : uuid()
      taken.add(id)
      return [s.id, id] as const
    }),
  )
  return read.standards.map((s) => ({
    ...s,
    years: [...s.years],
    id: ids.get(s.id) ?? uuid(),
    parentId: s.parentId === null ? null : (ids.get(s.parentId) ?? null),
  }))
}

/** Reads a framework from a CASE package or a CSV file: into a new set, or in place of what a set holds. */
export function ImportDialog({
  server,
  onClose,
  onSaved,
}: {
  server: Sets
  onClose: () => void
  onSaved: (words: string, run: string | undefined, setId?: string) => void
}) {
  const [read, setRead] = useState<StandardSet>()
  const [problems, setProblems] = useState<readonly string[]>([])
  const [newId] = useState(() => uuid())
  const of = useCommandForm('assessment.importStandards', {
    schema: () => import('@/core/assessment/standard-inputs').then((m) => m.importedSetInput),
    values: { name: '', subjectId: '', setId: '' } as Values,
    places: ['name', 'subjectId', 'setId'],
    input: ({ name, subjectId, setId }: Values) => {
      const into = server.sets.find((s) => s.id === setId)
      return {
        setId: into?.id ?? newId,
        expectedVersion: into?.version ?? 0,
        name,
        subjectId: subjectId || null,
        source: read?.source ?? into?.source ?? null,
        standards: read ? identified(read, into) : [],
      }
    },
    onSaved: ({ kept }, { name, setId }, run) =>
      onSaved(
        `${read?.standards.length ?? 0} standards were read into ${name}.${kept > 0 ? ` ${kept} that the file no longer has stay, because questions are tagged with them.` : ''}`,
        run,
        setId || newId,
      ),
  })
  const { form } = of
  async function pick(file: File | undefined) {
    if (!file) return
    const found = await readFile(file)
    setProblems('problems' in found ? found.problems : [])
    setRead('set' in found ? found.set : undefined)
    if (!('set' in found)) return
    const { name, source } = found.set
    const same = server.sets.find((s) => (source ? s.source === source : s.name === name))
    form.setValue('setId', same?.id ?? '')
    form.setValue('name', same?.name ?? name)
    form.setValue('subjectId', same?.subjectId ?? '')
  }
  const depth = read ? Math.max(...inTree(read.standards).placed.map((p) => p.depth)) + 1 : 0
  return (
    <DialogForm of={of} title="Read learning standards from a file" save="Read" onClose={onClose}>
      <Field
        label="File"
        help="A CASE 1.0 package (JSON), or CSV with the columns code, statement, parent and years."
      >
        {(field) => (
          <input
            {...field}
            type="file"
            accept=".json,.csv,application/json,text/csv"
            onChange={(e) => void pick(e.target.files?.[0])}
            className="max-w-full file:mr-3 file:rounded-[3px] file:border file:border-line file:bg-panel file:px-3 file:py-1"
          />
        )}
      </Field>
      <UnreadFile problems={problems} />
      {read && (
        <>
          <p role="status">
            {read.standards.length === 1 ? '1 standard' : `${read.standards.length} standards`} on{' '}
            {depth === 1 ? '1 level' : `${depth} levels`}.
          </p>
          <FormSelect
            of={of}
            name="setId"
            label="Read into"
            help="A set that is there gets what the file has in place of what it holds. Tags of questions stay."
          >
            <option value="">a new set</option>
            {server.sets.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </FormSelect>
          <FormText of={of} name="name" label="Name of the set" />
          <FormSelect of={of} name="subjectId" label="Subject">
            <option value="">all subjects</option>
            {server.subjects.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </FormSelect>
        </>
      )}
    </DialogForm>
  )
}
