'use client'
import { useState, type ReactNode } from 'react'
import type { PartKind } from '@/core/calendar/inputs'
import type { QueryOutput } from '@/server/registry'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { useUndoable } from '@/screen/undoable'
import type { OpenPart } from './part-name'

const PartDialog = later(() => import('./part-dialog').then((m) => m.PartDialog))

export type Structure = QueryOutput<'year.classesAndParts'>
export type SchoolClass = Structure['classes'][number]
export type Homeroom = Structure['homerooms'][number]

export const nobody = <span className="text-port">no teacher</span>

/** Names of teachers by their ids, in the order of the list of staff. */
export const teachers = (s: Structure, ids: readonly string[]) =>
  s.staff.filter((member) => ids.includes(member.id)).map((member) => member.name)

/** The room of a class or a homeroom, by name. */
export const roomOf = (s: Structure, of: { readonly roomId: string | null }) =>
  s.rooms.find((room) => room.id === of.roomId)?.name

/** What the pages of the structure share: the answer that follows changes, what the last act did, and renaming a part. */
export function useStructure(initial: Structure, date: string) {
  const [s, refresh] = useLive('year.classesAndParts', { date }, initial)
  const undoable = useUndoable(refresh)
  const [opened, setOpened] = useState<{ kind: PartKind; id: string }>()
  const done = (words: string, run: string | undefined) => {
    undoable.done(words, run)
    void refresh()
  }
  const onPart: OpenPart | undefined = s.mayChange ? (kind, id) => setOpened({ kind, id }) : undefined
  const lists = { 'year group': s.yearGroups, homeroom: s.homerooms, subject: s.subjects, room: s.rooms }
  const partDialog: ReactNode = opened && (
    <PartDialog
      kind={opened.kind}
      part={lists[opened.kind].find((part) => part.id === opened.id)}
      onClose={() => setOpened(undefined)}
      onSaved={(words, run) => {
        setOpened(undefined)
        done(words, run)
      }}
    />
  )
  return { s, refresh, undoable, done, onPart, partDialog }
}

/** In place of a page of the structure while the school has no academic year. */
export function NoYear({ title, mayChange }: { title: string; mayChange: boolean }) {
  return (
    <div className="sheet reading">
      <PageHead title={title} />
      <p>
        Everything here belongs to an academic year.{' '}
        <Link className="link" href="/school/year">
          {mayChange ? 'Create it first' : 'An administrator creates it first'}
        </Link>
        .
      </p>
    </div>
  )
}
