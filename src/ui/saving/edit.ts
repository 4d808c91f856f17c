/** A change to records, on its way to the server. Everything needed to send it, show it and follow it is in it. */
export interface Edit {
  /** Idempotency key: sent again after a lost answer, it still counts once. */
  readonly id: string
  /** The id of the edit this one was cut from, when part of that one met a conflict. */
  readonly origin?: string
  readonly command: string
  readonly input: unknown
  /** Names each record it writes by the parts of its key: `score {assignmentId} {studentId}`. Without braces, one record. */
  readonly record: string
  /** The table whose rows an undo answers with. */
  readonly table?: string
  /** What belongs together, such as one register. An edit of unknown records waits for all others of its scope. */
  readonly scope: string
  /** What it changes, in words: "Ilse Okonjo-Marsh: A1". */
  readonly label: string
  readonly madeOn: PageOfEdit
  readonly at: number
}

/** The page an edit was made on. */
export interface PageOfEdit {
  readonly name: string
  readonly href: string
}

/** A saved value that an edit did not expect. */
export interface Standing {
  readonly key: unknown
  readonly value: unknown
  readonly version: number
  readonly by: string
}

type Values = Readonly<Record<string, unknown>>

/** A value as it is sent, with the key of its record and the version it replaces. */
interface InputCell {
  readonly key: Values
  readonly value: unknown
  readonly expectedVersion: number
}

/** One record of an edit, by its name. */
export type EditCell = Omit<InputCell, 'key'> & { readonly record: string }

const inputCells = (edit: Edit) => (edit.input as { cells?: readonly InputCell[] }).cells

/** The name of the record with this key. */
export function recordOf(template: string, key: unknown): string {
  return template.replace(/\{(\w+)\}/g, (_, name: string) => String((key as Values | null)?.[name] ?? ''))
}

/** Whether the server decides which records it writes, as for "everyone who has no mark". */
export function isBulk(edit: Edit): boolean {
  return (
    inputCells(edit) === undefined &&
    typeof (edit.input as { expectedVersion?: unknown }).expectedVersion !== 'number'
  )
}

/** The records an edit writes; none for those that only the server knows. */
export function cellsOf(edit: Edit): readonly EditCell[] {
  const cells = inputCells(edit)
  if (cells)
    return cells.map(({ key, value, expectedVersion }) => ({
      record: recordOf(edit.record, key),
      value,
      expectedVersion,
    }))
  if (isBulk(edit)) return []
  return [
    {
      record: edit.record,
      value: edit.input,
      expectedVersion: (edit.input as { expectedVersion: number }).expectedVersion,
    },
  ]
}

/** The versions an edit left behind, by record; 0 where it deleted one. */
export function versionsAfter(edit: Edit, answer: unknown): ReadonlyMap<string, number> {
  const restored = (answer as { restored?: unknown } | null)?.restored
  const rows = (Array.isArray(answer) ? answer : Array.isArray(restored) ? restored : []) as readonly {
    readonly table?: string
    readonly key: unknown
    readonly version: number
  }[]
  if (rows.length > 0)
    return new Map(
      rows
        .filter((row) => row.table === undefined || row.table === edit.table)
        .map((row) => [recordOf(edit.record, row.key), row.version]),
    )
  const version = (answer as { version?: unknown } | null)?.version
  return typeof version === 'number' && !isBulk(edit) ? new Map([[edit.record, version]]) : new Map()
}

/** The same edit, built on other versions of its records. */
export function withExpectedVersions(edit: Edit, versions: ReadonlyMap<string, number>): Edit {
  if (!cellsOf(edit).some((c) => versions.has(c.record) && versions.get(c.record) !== c.expectedVersion))
    return edit
  const cells = inputCells(edit)
  if (!cells)
    return { ...edit, input: { ...(edit.input as object), expectedVersion: versions.get(edit.record) } }
  return {
    ...edit,
    input: {
      ...(edit.input as object),
      cells: cells.map((c) => ({
        ...c,
        expectedVersion: versions.get(recordOf(edit.record, c.key)) ?? c.expectedVersion,
      })),
    },
  }
}

/** The part of an edit that writes some of its records; undefined when there is none. */
export function partOf(edit: Edit, id: string, wanted: (record: string) => boolean): Edit | undefined {
  const cells = inputCells(edit)
  if (!cells) return wanted(edit.record) ? { ...edit, id } : undefined
  const kept = cells.filter((c) => wanted(recordOf(edit.record, c.key)))
  if (kept.length === 0) return undefined
  return { ...edit, id, origin: edit.origin ?? edit.id, input: { ...(edit.input as object), cells: kept } }
}

/** Whether two edits must keep their order. */
export function overlap(a: Edit, b: Edit): boolean {
  if (a.scope === b.scope && (isBulk(a) || isBulk(b))) return true
  const records = new Set(cellsOf(a).map((c) => c.record))
  return cellsOf(b).some((c) => records.has(c.record))
}

/** Whether every record of one edit is written by another as well. */
export function covers(by: Edit, edit: Edit): boolean {
  const records = new Set(cellsOf(by).map((c) => c.record))
  const cells = cellsOf(edit)
  return cells.length > 0 && cells.every((c) => records.has(c.record))
}
