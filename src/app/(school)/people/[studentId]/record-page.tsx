'use client'
import { useSearchParams } from 'next/navigation'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { addDays } from '@/core/calendar/school-year'
import { heldOn } from '@/core/people/memberships'
import { spokenName } from '@/core/people/names'
import { numberWords } from '@/core/people/student-number'
import { Button, buttonLooks } from '@/ui/button'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { EditField } from '@/screen/record/edit-field'
import { useFields, type Fields } from '@/screen/record/use-fields'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { Guardians } from './guardians'
import { Memberships } from './memberships'
import { Photo } from './photo'
import { ShortViews } from './short-views'
import { studentPages } from './student-pages'
import type { Student } from './record'

type Belonging = Student['places'][number]

const MoveDialog = later(() => import('./move-dialog').then((m) => m.MoveDialog))
const PhotoDialog = later(() => import('./photo-dialog').then((m) => m.PhotoDialog))
const MergeDialog = later(() => import('./merge-dialog').then((m) => m.MergeDialog))
const LeaveDialog = later(() => import('@/app/(school)/people/leave-dialog').then((m) => m.LeaveDialog))

const labels = {
  legalGivenName: 'Legal given name',
  legalFamilyName: 'Legal family name',
  preferredName: 'Preferred name',
  sortName: 'Name in lists',
  birthDate: 'Birth date',
  pronouns: 'Pronouns',
  address: 'Address',
  transport: 'Transport',
  supportNote: 'Support note',
  medicalNote: 'Medical note',
} as const

const schemas = () => import('@/core/people/inputs').then((m) => m.studentFields)

const placesOf = (s: Student, kind: Belonging['kind']) =>
  s.places
    .filter((p) => p.kind === kind)
    .map((p) => ({ placeId: p.id, name: p.name, from: p.from, until: p.until }))

/** Where the student belongs on a date: the year group or the homeroom. */
function placeOn(s: Student, kind: Belonging['kind'], date: string) {
  const all = placesOf(s, kind)
  const held = heldOn(all, date)
  return held && all.find((p) => p.placeId === held.placeId && p.from === held.from)
}

/** Who the student is on a date, in a few words under the name. */
function standing(s: Student, date: string): string {
  if (s.number === null)
    return `Accepted, not yet enrolled; expected ${s.expectedFrom ? `from ${shortDate(s.expectedFrom, true)}` : 'at a date not entered'}`
  const number = `No. ${numberWords(s.number)}`
  const nameOf = (kind: Belonging['kind']) => placeOn(s, kind, date)?.name
  const group = nameOf('year group')
  if (group) return [number, group, nameOf('homeroom')].filter(Boolean).join(', ')
  const left = s.departures.filter((d) => d.lastDay < date).at(-1)
  return left
    ? `${number}. Left on ${shortDate(left.lastDay, true)}: ${[left.reason, left.destination].filter(Boolean).join(', ')}`
    : `${number}, not on roll on ${shortDate(date, true)}`
}

function Details({ of, s, onPhoto }: { of: Fields; s: Student; onPhoto: () => void }) {
  const field = (name: keyof typeof labels, more: object = {}) => (
    <EditField of={of} name={name} label={labels[name]} open={s.mayChange} {...more} />
  )
  return (
    <section aria-labelledby="details">
      <h2 id="details" className="mb-2 border-b border-ink pb-1">
        Details
      </h2>
      <Photo s={s} onOpen={onPhoto} />
      <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2">
        {field('legalGivenName')}
        {field('legalFamilyName')}
        {field('preferredName', { help: 'The name used every day, if it is another one' })}
        {field('sortName', { help: 'Follows the names until it is changed here' })}
        {s.maySeeDetails && field('birthDate', { kind: 'date' })}
        {field('pronouns')}
        {s.maySeeDetails && field('address', { className: 'sm:col-span-2' })}
        {s.maySeeDetails && field('transport', { className: 'sm:col-span-2' })}
      </div>
    </section>
  )
}

function Notes({ of, s }: { of: Fields; s: Student }) {
  const note = (name: 'supportNote' | 'medicalNote') => (
    <EditField of={of} name={name} label={labels[name]} kind="text" open={s.mayChange && s.mayChangeNotes} />
  )
  return (
    <section aria-labelledby="notes">
      <h2 id="notes" className="mb-1 border-b border-ink pb-1">
        Notes
      </h2>
      <p className="mb-2 text-[13px] text-muted">
        Seen by administrators, head, office and the student’s own teachers only.
      </p>
      <div className="grid gap-4 sm:grid-cols-2">
        {note('supportNote')}
        {note('medicalNote')}
      </div>
    </section>
  )
}

/** A student's record: edited in place where one may, with guardians and where the student belongs. */
export function RecordPage({ initial }: { initial: Student }) {
  const [s, refresh] = useLive('people.student', { studentId: initial.id }, initial)
  const { date, acts } = useSchool()
  const undoable = useUndoable(refresh)
  const again = useSearchParams().get('act') === 'again'
  const [dialog, setDialog] = useState<'move' | 'leave' | 'photo' | 'merge' | undefined>(
    again && s.mayChange && s.number !== null ? 'move' : undefined,
  )
  const name = spokenName(s.fields.sortName)
  const of = useFields(
    {
      command: 'people.setStudent',
      id: s.id,
      input: { studentId: s.id },
      place: { name: `${name}, record`, href: `/people/${s.id}` },
      schemas,
    },
    { values: s.fields, versions: s.versions },
    refresh,
  )
  const saved = (words: string) => (run: string | undefined) => {
    setDialog(undefined)
    undoable.done(words, run)
    void refresh()
  }
  const onRoll = heldOn(placesOf(s, 'year group'), date) !== undefined
  const mayEnrol = acts.some((act) => act.href === '/people/enrol')
  return (
    <div className="sheet" onKeyDown={of.onKeyDown}>
      <PageHead
        title={name}
        page="Record"
        pages={studentPages(s.id, s.maySeeHistory)}
        detail={standing(s, date)}
        saves={s.mayChange}
        act={
          s.number === null
            ? mayEnrol && (
                <Link className={buttonLooks()} href={`/people/enrol?applicant=${s.id}`}>
                  Enrol
                </Link>
              )
            : s.mayChange && (
                <>
                  {onRoll && (
                    <Button kind="plain" onClick={() => setDialog('leave')}>
                      Leave
                    </Button>
                  )}
                  <Button onClick={() => setDialog('move')}>{onRoll ? 'Move' : 'Enrol again'}</Button>
                </>
              )
        }
      />
      {s.mergedInto && (
        <p className="hint mb-4">
          This record was merged into{' '}
          <Link className="link" href={`/people/${s.mergedInto.id}`}>
            {spokenName(s.mergedInto.name)}
          </Link>
          {s.mergedInto.number !== null && `, no. ${numberWords(s.mergedInto.number)}`}. It can no longer be
          changed.
        </p>
      )}
      <UndoableMessage of={undoable} />
      <div className="grid gap-8">
        <div className="grid gap-8 lg:grid-cols-[5fr_4fr]">
          <Details of={of} s={s} onPhoto={() => setDialog('photo')} />
          {s.maySeeContact && <Guardians s={s} onSaved={(words, run) => saved(words)(run)} />}
        </div>
        {s.maySeeNotes && <Notes of={of} s={s} />}
        {s.number !== null && !s.mergedInto && (
          <ShortViews studentId={s.id} date={date} homeroom={placeOn(s, 'homeroom', date)} />
        )}
        <section>
          <h2 className="mb-1">Memberships</h2>
          <Memberships rows={s.places} date={date} />
        </section>
        {s.mayMerge && (
          <p className="no-print">
            <Button kind="quiet" onClick={() => setDialog('merge')}>
              Merge with another record of the same student
            </Button>
          </p>
        )}
      </div>
      {dialog === 'move' && (
        <MoveDialog
          s={s}
          date={date}
          onClose={() => setDialog(undefined)}
          onSaved={(from, run) => saved(`Saved from ${shortDate(from, true)}.`)(run)}
        />
      )}
      {dialog === 'photo' && (
        <PhotoDialog s={s} onClose={() => setDialog(undefined)} onSaved={(words, run) => saved(words)(run)} />
      )}
      {dialog === 'merge' && (
        <MergeDialog s={s} onClose={() => setDialog(undefined)} onSaved={(words, run) => saved(words)(run)} />
      )}
      {dialog === 'leave' && (
        <LeaveDialog
          students={[{ studentId: s.id, expectedVersion: s.rollVersion }]}
          title={`Record ${spokenName(s.fields.sortName)} as leaving`}
          date={date}
          onClose={() => setDialog(undefined)}
          onSaved={(lastDay, run) =>
            saved(
              `${name} leaves the school after ${shortDate(lastDay, true)}. From ${shortDate(addDays(lastDay, 1), true)} no register lists them.`,
            )(run)
          }
        />
      )}
    </div>
  )
}
