'use client'
import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import type { z } from 'zod'
import { recordOf, type PageOfEdit } from '@/ui/saving/edit'
import { useKeys, type KeyGroup } from '@/screen/keys'
import { useEnded } from '@/screen/saving'
import {
  useRecorded,
  type CellCommand,
  type Edited,
  type Editing,
  type KeyOf,
  type ScopeOf,
} from '@/screen/use-recorded'

export type FieldValue = string | null

/** The commands that save the fields of a record. */
export type FieldCommand = {
  [N in CellCommand]: KeyOf<N> extends { readonly field: string } ? N : never
}[CellCommand]
type EditedFields = Edited<FieldValue, KeyOf<FieldCommand>>

/** The fields of one record that is edited in place. */
export interface Fields {
  /** What a field holds, with what was just typed on top. */
  readonly value: (field: string) => FieldValue
  readonly begin: (field: string) => void
  readonly cancel: (field: string) => void
  readonly save: (field: string, value: FieldValue, label: string) => void
  /** What a field may hold; undefined until that has been fetched, when only the server checks. */
  readonly schema: (field: string) => z.ZodType | undefined
  /** The name of a field's record among the edits. */
  readonly recordOf: (field: string) => string
  readonly rejectedEdits: EditedFields['rejectedEdits']
  readonly resolve: EditedFields['resolve']
  readonly recorded: EditedFields['recorded']
  /** Undo and redo by Ctrl Z and Ctrl Y, outside of a field that is being typed into. */
  readonly onKeyDown: (event: KeyboardEvent) => void
}

const keys: KeyGroup = {
  title: 'Fields of the record',
  keys: [
    ['Enter', 'Save a field; it is also saved when you leave it'],
    ['Esc', 'Take back what you are typing'],
    ['Ctrl Z', 'Undo the last saved change'],
    ['Ctrl Y', 'Do it again'],
  ],
}

/**
 * A record whose fields are saved one by one, see `defineFields`.
 * @param about.schemas loads what each field may hold
 * @param stored the fields in the server's answer, with the version of each
 */
export function useFields(
  about: {
    readonly command: FieldCommand
    readonly id: string
    readonly input: ScopeOf<FieldCommand>
    readonly place: PageOfEdit
    readonly schemas: () => Promise<Readonly<Record<string, z.ZodType>>>
  },
  stored: {
    readonly values: Readonly<Record<string, FieldValue>>
    readonly versions: Readonly<Record<string, number>>
  },
  refresh: () => Promise<void>,
): Fields {
  const { command, id, input, schemas } = about
  // What is edited stays the same while its name changes, and with it what can be undone.
  const [place] = useState(about.place)
  const inputText = JSON.stringify(input)
  // Fetched apart from the page, and there long before the first field is left.
  const fetched = useRef<Readonly<Record<string, z.ZodType>>>({})
  useEffect(() => {
    void schemas().then((all) => {
      fetched.current = all
    })
  }, [schemas])
  const editing = useMemo(
    (): Editing<FieldCommand, FieldValue> => ({
      command,
      record: `${command} ${id} {field}`,
      scope: `${command} ${id}`,
      place,
      input: JSON.parse(inputText) as ScopeOf<FieldCommand>,
      empty: null,
    }),
    [command, id, inputText, place],
  )
  const records = useMemo(
    () =>
      new Map(
        Object.entries(stored.values).map(([field, value]) => [
          recordOf(editing.record, { field }),
          { value, version: stored.versions[field] ?? 0 },
        ]),
      ),
    [stored.values, stored.versions, editing],
  )
  const { recorded, valueAt, rejectedEdits, resolve } = useRecorded(editing, records, refresh)
  useEnded((ended) => {
    if (ended.kind === 'done' && ended.edit.scope === editing.scope) void refresh()
  })
  useKeys(keys)
  const onKeyDown = useCallback(
    (event: KeyboardEvent) => {
      const key = event.key.toLowerCase()
      if (!(event.ctrlKey || event.metaKey) || (key !== 'z' && key !== 'y')) return
      if ((event.target as HTMLElement).dataset.typing === 'yes') return
      event.preventDefault()
      if (key === 'y' || event.shiftKey) recorded?.redo()
      else recorded?.undo()
    },
    [recorded],
  )
  return {
    value: (field) => valueAt(recordOf(editing.record, { field })),
    begin: (field) => recorded?.begin({ field }),
    cancel: (field) => recorded?.cancel({ field }),
    save: (field, value, label) => void recorded?.save([{ key: { field }, value }], label),
    schema: (field) => fetched.current[field],
    recordOf: (field) => recordOf(editing.record, { field }),
    rejectedEdits,
    resolve,
    recorded,
    onKeyDown,
  }
}
