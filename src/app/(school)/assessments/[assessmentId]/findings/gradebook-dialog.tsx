'use client'
import { useWatch } from 'react-hook-form'
import { mostOf } from '@/core/assessment/scoring'
import { Problem, Select, Tick } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import Link from '@/screen/link'
import { LoadedDialog } from '@/app/(school)/assessments/[assessmentId]/acts/loaded-dialog'
import type { QueryOutput } from '@/server/registry'
import type { Findings } from './shown'

const title = 'Add to gradebook'
type Offered = QueryOutput<'marks.linkTargets'>[number]

/** Asks into which gradebooks the result goes, as what, and out of how many points. */
export function GradebookDialog(props: {
  findings: Findings
  onClose: () => void
  /** It stands in the gradebooks of these classes now. */
  onAdded: (words: string, run: string | undefined) => void
}) {
  return (
    <LoadedDialog
      title={title}
      query="marks.linkTargets"
      input={{ assessmentId: props.findings.id }}
      onClose={props.onClose}
    >
      {(offered) => <GradebookForm {...props} offered={offered.filter((c) => !c.isLinked)} />}
    </LoadedDialog>
  )
}

/** One class of the form: whether it is ticked, and the category or assignment that is chosen. */
interface Line {
  readonly classId: string
  readonly isOn: boolean
  readonly into: string
}

function GradebookForm({
  findings: f,
  offered,
  onClose,
  onAdded,
}: Parameters<typeof GradebookDialog>[0] & { offered: readonly Offered[] }) {
  const offerOf = new Map(offered.map((c) => [c.classId, c]))
  const asTarget = ({ classId, into }: Line) => {
    const assignment = offerOf.get(classId)?.assignments.find((a) => a.id === into)
    return assignment
      ? { classId, assignment: { id: assignment.id, expectedVersion: assignment.version } }
      : { classId, categoryId: into }
  }
  const of = useCommandForm('marks.linkAssessment', {
    schema: () => import('@/core/marks/link-input').then((m) => m.linkInput),
    values: {
      as: 'whole',
      maxPoints: '',
      targets: offered.map((c): Line => ({
        classId: c.classId,
        isOn: c.categories.length > 0,
        into: c.categories[0]?.id ?? '',
      })),
    },
    places: ['as', 'maxPoints', 'targets'],
    input: ({ as, maxPoints, targets }) => ({
      assessmentId: f.id,
      byStandard: as === 'standards',
      maxPoints: maxPoints.trim() === '' ? null : maxPoints.trim().replace(',', '.'),
      targets: targets.filter((t) => t.isOn).map(asTarget),
    }),
    onSaved: (_, { targets }, run) => {
      const names = targets.flatMap((t) => (t.isOn ? (offerOf.get(t.classId)?.className ?? []) : []))
      onAdded(
        names.length === 1
          ? `Added to the gradebook of ${names[0]}.`
          : `Added to ${names.length} gradebooks.`,
        run,
      )
      onClose()
    },
  })
  const { as, targets } = useWatch({ control: of.form.control })
  const byStandard = as === 'standards'
  const lines = (targets ?? []) as readonly Line[]
  const put = (next: readonly Line[]) => of.form.setValue('targets', [...next], { shouldDirty: true })
  /** Chooses for one class, and the category of the same name for those that have not been chosen for. */
  function choose(classId: string, into: string) {
    const name = offerOf.get(classId)?.categories.find((k) => k.id === into)?.name
    put(
      lines.map((line) => {
        if (line.classId === classId) return { ...line, into }
        const offer = offerOf.get(line.classId)
        const alike = offer?.categories.find((k) => k.name === name)
        return alike && line.into === offer?.categories[0]?.id ? { ...line, into: alike.id } : line
      }),
    )
  }
  return (
    <DialogForm
      of={of}
      title={title}
      description="It stays linked: later changes of answers or key follow by themselves."
      save="Add"
      wide={offered.length > 1}
      onClose={onClose}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        {f.questions.some((q) => q.standardIds.length > 0) && (
          <FormSelect
            of={of}
            name="as"
            label="As"
            onChange={(e) => {
              // An existing assignment holds one score alone.
              if (e.target.value === 'standards')
                put(
                  lines.map((line) => {
                    const { categories = [] } = offerOf.get(line.classId) ?? {}
                    return categories.some((k) => k.id === line.into)
                      ? line
                      : { ...line, into: categories[0]?.id ?? '' }
                  }),
                )
            }}
          >
            <option value="whole">one score</option>
            <option value="standards">one score for each standard</option>
          </FormSelect>
        )}
        <FormText
          of={of}
          name="maxPoints"
          label="Scaled to"
          inputMode="decimal"
          placeholder={byStandard ? 'its points' : `${mostOf(f.questions) / 100} points`}
        />
      </div>
      <fieldset>
        <legend className="mb-1 text-[13px] font-bold">Gradebooks</legend>
        {of.problem('targets') && <Problem>{of.problem('targets')}</Problem>}
        <ul className="grid gap-2">
          {offered.map((c) => (
            <li key={c.classId} className="grid items-center gap-x-3 sm:grid-cols-[12rem_minmax(0,1fr)]">
              <ClassLine
                offer={c}
                line={lines.find((line) => line.classId === c.classId)}
                byStandard={byStandard}
                onTick={(isOn) =>
                  put(lines.map((line) => (line.classId === c.classId ? { ...line, isOn } : line)))
                }
                onInto={(into) => choose(c.classId, into)}
              />
            </li>
          ))}
        </ul>
      </fieldset>
    </DialogForm>
  )
}

function ClassLine({
  offer,
  line,
  byStandard,
  onTick,
  onInto,
}: {
  offer: Offered
  line: Line | undefined
  byStandard: boolean
  onTick: (isOn: boolean) => void
  onInto: (into: string) => void
}) {
  const { classId, className, givenOn, categories, assignments } = offer
  if (categories.length === 0)
    return (
      <>
        <strong>{className}</strong>
        <span>
          This class has no gradebook for that term yet.{' '}
          <Link className="link" href={`/classes/${classId}/marks?date=${givenOn}`}>
            Set up its categories and weights first
          </Link>
          .
        </span>
      </>
    )
  return (
    <>
      <Tick label={className} checked={line?.isOn ?? false} onChange={(e) => onTick(e.target.checked)} />
      <Select
        aria-label={`Category of ${className}`}
        disabled={!line?.isOn}
        value={line?.into ?? ''}
        onChange={(e) => onInto(e.target.value)}
      >
        <optgroup label="New assignment in">
          {categories.map((k) => (
            <option key={k.id} value={k.id}>
              {k.name}
            </option>
          ))}
        </optgroup>
        {assignments.length > 0 && !byStandard && (
          <optgroup label="Existing assignment">
            {assignments.map((a) => (
              <option key={a.id} value={a.id}>
                {a.name}
              </option>
            ))}
          </optgroup>
        )}
      </Select>
    </>
  )
}
