'use client'
import { parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs'
import { useMemo, useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { clashes } from '@/core/timetable/timetable'
import { readTimetableCsv, timetableTitles, type CsvLesson } from '@/core/timetable/timetable-csv'
import { Button } from '@/ui/button'
import { ChoiceGroup } from '@/ui/choice-group'
import { Field, Select } from '@/ui/field'
import { Download } from '@/ui/table/download'
import { CsvPick, UnreadFile } from '@/screen/csv-file'
import { later } from '@/screen/later'
import { PageHead } from '@/screen/page-head'
import { PreviewDialog } from '@/screen/preview-dialog'
import { useSchool } from '@/screen/school-context'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { useLive } from '@/screen/use-live'
import { TimetableGrid } from './timetable-grid'
import type { TableOf } from './timetable'
import type { Shown, Timetable } from './timetable'

const TimetableDialog = later(() => import('./timetable-dialog').then((m) => m.TimetableDialog))
const RegistersDialog = later(() => import('./registers-dialog').then((m) => m.RegistersDialog))

const kinds = ['teacher', 'class', 'room'] as const
const kindWords = { teacher: 'Teacher', class: 'Class', room: 'Room' } as const

/** Everyone and everything a timetable can be looked at for, by name. */
function choicesOf({ classes, rooms }: Shown, kind: (typeof kinds)[number]) {
  if (kind !== 'teacher') return kind === 'class' ? classes : rooms
  const teachers = new Map(classes.flatMap((c) => c.teachers.map((t) => [t.id, t])))
  return [...teachers.values()].sort((a, b) => a.name.localeCompare(b.name))
}

const daysOf = ({ firstDay, lastDay }: Timetable) =>
  `from ${shortDate(firstDay, true)}${lastDay ? ` to ${shortDate(lastDay, true)}` : ''}`

/** Two lessons at once that need the same teacher or room, each with a link to where it is seen. */
function Clashes({
  shown,
  onShow,
}: {
  shown: Shown
  onShow: (kind: 'teacher' | 'room', id: string) => void
}) {
  const found = useMemo(
    () => clashes(shown.lessons, new Map(shown.classes.map((c) => [c.id, c.teachers.map((t) => t.id)]))),
    [shown],
  )
  if (found.length === 0) return null
  const nameOf = new Map([
    ...shown.rooms.map((r) => [r.id, r.name] as const),
    ...shown.classes.flatMap((c) => [
      [c.id, c.name] as const,
      ...c.teachers.map((t) => [t.id, t.name] as const),
    ]),
  ])
  return (
    <section className="hint mb-4 max-w-3xl" aria-labelledby="clashes">
      <h2 id="clashes">
        {found.length === 1 ? 'One teacher or room is' : `${found.length} times a teacher or room is`} needed
        twice
      </h2>
      <ul className="grid gap-1">
        {found.slice(0, 8).map((c) => (
          <li key={`${c.cycleDay} ${c.period} ${c.who}`}>
            <button type="button" className="link" onClick={() => onShow(c.kind, c.who)}>
              {nameOf.get(c.who)}
            </button>
            , {shown.days[c.cycleDay - 1]}, period {c.period}:{' '}
            {c.classIds.map((id) => nameOf.get(id) ?? 'a class of another year').join(' and ')}
          </li>
        ))}
      </ul>
      {found.length > 8 && <p>and {found.length - 8} more</p>}
    </section>
  )
}

/** The timetable of the chosen date, seen for one teacher, class or room, and typed into by those who may. */
export function TimetablePage({ initial, date }: { initial: Shown; date: string }) {
  const [shown, refresh] = useLive('timetable.shown', { date }, initial)
  const undoable = useUndoable(refresh)
  const { actor, today } = useSchool()
  const [open, setOpen] = useState<'new' | 'edit' | 'registers'>()
  const [unread, setUnread] = useState<readonly string[]>([])
  // What the file holds, and the timetable as it was when the file was chosen.
  const [file, setFile] = useState<{ lessons: readonly CsvLesson[]; expectedVersion: number }>()
  const [{ by, of }, setView] = useQueryStates(
    { by: parseAsStringLiteral(kinds).withDefault('teacher'), of: parseAsString.withDefault('') },
    { history: 'replace' },
  )
  const [timetable] = shown.timetables
  const choices = choicesOf(shown, by)
  const chosen =
    choices.find((c) => c.id === of) ??
    choices.find((c) => by === 'teacher' && c.name === actor.name) ??
    choices[0]
  const tableOf: TableOf | undefined = chosen && { kind: by, id: chosen.id, name: chosen.name }
  const replacing = useMemo(
    () =>
      timetable &&
      file && {
        timetableId: timetable.id,
        expectedVersion: file.expectedVersion,
        lessons: [...file.lessons],
      },
    [timetable, file],
  )
  const saved = (words: string, run: string | undefined) => {
    setOpen(undefined)
    setFile(undefined)
    undoable.done(words, run)
    void refresh()
  }
  function list() {
    const className = new Map(shown.classes.map((c) => [c.id, c.name]))
    const roomName = new Map(shown.rooms.map((r) => [r.id, r.name]))
    return {
      name: `timetable ${timetable?.firstDay ?? ''}`,
      header: [...timetableTitles],
      rows: shown.lessons.map((l) => [
        shown.days[l.cycleDay - 1] ?? '',
        l.period,
        className.get(l.classId) ?? '',
        roomName.get(l.roomId ?? '') ?? '',
      ]),
    }
  }
  return (
    <div className="sheet print-wide">
      <PageHead
        title="Timetable"
        detail={timetable && `${timetable.name}, ${daysOf(timetable)}`}
        act={
          shown.mayChange && (
            <Button onClick={() => setOpen('new')}>
              {timetable ? 'Start a new timetable' : 'Enter a timetable'}
            </Button>
          )
        }
      />
      <UndoableMessage of={undoable} />
      {!timetable && (
        <p className="max-w-xl">
          There is no timetable yet. With one, lessons stand on Today, registers can be taken in lessons, and
          cover can be arranged.
        </p>
      )}
      {timetable && (
        <>
          <Clashes shown={shown} onShow={(kind, id) => void setView({ by: kind, of: id })} />
          <div className="mb-4 flex flex-wrap items-end gap-x-5 gap-y-3 no-print">
            <ChoiceGroup
              label="Timetable of a"
              choices={kinds}
              value={by}
              onChange={(kind) => kind && void setView({ by: kind, of: null })}
            >
              {(kind) => kindWords[kind]}
            </ChoiceGroup>
            <div className="w-64">
              <Field label={kindWords[by]}>
                {(field) => (
                  <Select
                    {...field}
                    value={chosen?.id ?? ''}
                    onChange={(e) => void setView({ of: e.target.value })}
                  >
                    {choices.map((c) => (
                      <option key={c.id} value={c.id}>
                        {c.name}
                      </option>
                    ))}
                  </Select>
                )}
              </Field>
            </div>
            {shown.mayChange && (
              <>
                <Button kind="plain" onClick={() => setOpen('edit')}>
                  Edit days and periods
                </Button>
                <Button kind="plain" onClick={() => setOpen('registers')}>
                  Registers of year groups
                </Button>
              </>
            )}
          </div>
          {shown.mayChange && timetable.firstDay <= today && (
            <p className="mb-2 text-[13px] text-muted no-print">
              What you change counts from today where the lesson has not begun, otherwise from tomorrow.
              Earlier days stay as they were.
            </p>
          )}
          {tableOf ? (
            <TimetableGrid
              key={`${timetable.id} ${tableOf.id}`}
              shown={shown}
              timetable={timetable}
              of={tableOf}
              undoable={undoable}
              refresh={refresh}
            />
          ) : (
            <p>
              {by === 'room'
                ? 'No rooms yet. An administrator adds them under School, Rooms.'
                : 'No classes yet. An administrator adds them under School, Classes and teachers.'}
            </p>
          )}
          <div className="mt-4 flex flex-wrap items-center gap-5 no-print">
            <Download list={list} />
            {shown.mayChange && (
              <CsvPick
                label="Replace all lessons by a CSV file"
                onProblems={setUnread}
                onRead={(rows) => {
                  const read = readTimetableCsv(rows, shown, shown.days, shown.periods.length)
                  if (read.problems.length === 0)
                    setFile({ lessons: read.lessons, expectedVersion: timetable.version })
                  return read.problems
                }}
              />
            )}
          </div>
          <UnreadFile problems={unread} />
        </>
      )}
      {(open === 'new' || open === 'edit') && (
        <TimetableDialog
          edited={open === 'edit' ? timetable : undefined}
          periods={shown.periods}
          like={timetable}
          date={date}
          onClose={() => setOpen(undefined)}
          onSaved={saved}
        />
      )}
      {open === 'registers' && (
        <RegistersDialog groups={shown.yearGroups} onClose={() => setOpen(undefined)} onSaved={saved} />
      )}
      {replacing && (
        <PreviewDialog
          command="timetable.replaceLessons"
          input={replacing}
          title={`Replace all lessons by ${replacing.lessons.length} of the file`}
          description="From tomorrow on, or from the first day of a timetable that is not in use yet. Lessons that are the same stay, and so does everything until today."
          unchanged="Nothing would change: the file holds the same lessons as the timetable."
          act="Replace the lessons"
          onClose={() => setFile(undefined)}
          onDone={({ added, removed }, run) => saved(`${added} lessons added, ${removed} removed.`, run)}
        />
      )}
    </div>
  )
}
