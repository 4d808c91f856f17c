'use client'
import { shortDate } from '@/core/calendar/date-words'
import { DataTable } from '@/ui/table/data-table'
import { editColumn } from '@/ui/table/edit-column'
import { PartName, type OpenPart } from '@/app/(school)/school/structure/part-name'
import {
  nobody,
  roomOf,
  teachers,
  type Homeroom,
  type Structure,
} from '@/app/(school)/school/structure/use-structure'

type Row = {
  readonly group: Structure['yearGroups'][number]
  readonly homeroom?: Homeroom
  /** The first row of its year group, which alone opens it. */
  readonly first: boolean
}

/** Year groups in their order, each with its homerooms. */
export function Homerooms({
  s,
  found,
  onEdit,
  onClose,
  onPart,
}: {
  s: Structure
  /** The homeroom or year group that was followed from elsewhere. */
  found?: string
  onEdit: (id: string) => void
  /** Closes a homeroom after a day, or opens it again. */
  onClose: (id: string) => void
  onPart?: OpenPart
}) {
  return (
    <DataTable
      label="Year groups and homerooms"
      rows={s.yearGroups.flatMap((group): readonly Row[] => {
        const own = s.homerooms.filter((h) => h.yearGroupId === group.id)
        return own.length === 0
          ? [{ group, first: true }]
          : own.map((homeroom, i) => ({ group, homeroom, first: i === 0 }))
      })}
      rowKey={({ group, homeroom }) => homeroom?.id ?? group.id}
      found={found}
      rowClass={({ homeroom }) => (homeroom?.lastDay ? 'text-muted' : '')}
      empty={<p>No year groups yet. Add them in order, youngest first, each with its homerooms.</p>}
      columns={[
        {
          id: 'group',
          title: 'Year group',
          heading: true,
          cell: ({ group, first }) =>
            first ? (
              <PartName name={group.name} onOpen={onPart && (() => onPart('year group', group.id))} />
            ) : (
              <span className="text-muted">{group.name}</span>
            ),
        },
        {
          id: 'homeroom',
          title: 'Homeroom',
          cell: ({ homeroom }) =>
            homeroom ? (
              <PartName name={homeroom.name} onOpen={onPart && (() => onPart('homeroom', homeroom.id))} />
            ) : (
              'no homeroom'
            ),
        },
        {
          id: 'teachers',
          title: 'Homeroom teacher',
          cell: ({ homeroom }) =>
            homeroom &&
            (homeroom.lastDay
              ? `closed after ${shortDate(homeroom.lastDay)}`
              : homeroom.staffIds.length === 0
                ? nobody
                : teachers(s, homeroom.staffIds).join('; ')),
        },
        ...(s.rooms.length > 0
          ? [{ id: 'room', title: 'Room', cell: ({ homeroom }: Row) => homeroom && roomOf(s, homeroom) }]
          : []),
        { id: 'students', title: 'Students', align: 'right', cell: ({ homeroom }) => homeroom?.students },
        ...(s.mayChange
          ? [
              editColumn<Row>(
                {
                  words: () => 'Edit',
                  about: ({ homeroom }) => `the teacher and room of ${homeroom?.name}`,
                  act: ({ homeroom }) => homeroom && onEdit(homeroom.id),
                  when: ({ homeroom }) => homeroom?.lastDay === null,
                },
                {
                  words: ({ homeroom }) => (homeroom?.lastDay ? 'Open again' : 'End on a date'),
                  about: ({ homeroom }) => homeroom?.name ?? '',
                  act: ({ homeroom }) => homeroom && onClose(homeroom.id),
                  when: ({ homeroom }) => homeroom !== undefined,
                },
              ),
            ]
          : []),
      ]}
    />
  )
}
