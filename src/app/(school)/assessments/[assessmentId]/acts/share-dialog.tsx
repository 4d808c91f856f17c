'use client'
import { useFieldArray } from 'react-hook-form'
import type { Audience } from '@/core/assessment/sharing-inputs'
import { Button } from '@/ui/button'
import { Select, Tick } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useLive } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import type { ActProps } from './act-props'
import { LoadedDialog } from './loaded-dialog'

type Sharing = QueryOutput<'assessment.sharing'>
type Share = Sharing['shares'][number]

const groups: readonly (readonly [Exclude<Audience, 'school'>, string])[] = [
  ['year group', 'Year groups'],
  ['course', 'Courses'],
  ['colleague', 'Colleagues'],
]

/** "everybody at the school who teaches", "the team of Year 8": with whom something is shared. */
const wordsOf = ({ with: audience, name }: Pick<Share, 'with' | 'name'>): string =>
  audience === 'school'
    ? 'All teachers of the school'
    : audience === 'year group'
      ? `The team of ${name}`
      : audience === 'course'
        ? `Teachers of ${name}`
        : (name ?? '')

/** Says with whom an assessment is shared, and what they may do. */
export function ShareDialog(props: ActProps) {
  const title = `Share ${props.server.name}`
  return (
    <LoadedDialog
      title={title}
      query="assessment.sharing"
      input={{ assessmentId: props.server.id }}
      onClose={() => props.onClose(false)}
    >
      {(sharing) => <ShareForm {...props} title={title} sharing={sharing} />}
    </LoadedDialog>
  )
}

function ShareForm({
  server,
  title,
  sharing: asked,
  onClose,
}: ActProps & { title: string; sharing: Sharing }) {
  const [sharing] = useLive('assessment.sharing', { assessmentId: server.id }, asked)
  const of = useCommandForm('assessment.setShares', {
    schema: () => import('@/core/assessment/sharing-inputs').then((m) => m.sharesInput),
    values: { shares: [...sharing.shares] },
    edited: { version: sharing.version },
    places: ['shares'],
    input: ({ shares }) => ({
      assessmentId: sharing.id,
      expectedVersion: sharing.version,
      shares: shares.map(({ name: _name, ...share }) => share),
    }),
    onSaved: () => onClose(true),
  })
  const { register, control } = of.form
  const lines = useFieldArray({ control, name: 'shares' })
  const isIn = (audience: Audience, id: string | null) =>
    lines.fields.some((line) => line.with === audience && line.of === id)
  function add(value: string) {
    const [audience = 'school', id = ''] = value.split('|') as [Audience, string]
    const name = audience === 'school' ? null : sharing.offered[audience].find((o) => o.id === id)?.name
    lines.append({
      with: audience,
      of: id || null,
      name: name ?? null,
      maySeeResults: false,
      mayGive: true,
      mayEdit: false,
    })
  }
  return (
    <DialogForm
      of={of}
      title={title}
      description="Whoever it is shared with can read its questions and its key, and copy it. Tick what else they may do."
      onClose={() => onClose(false)}
      wide
    >
      {lines.fields.length === 0 && <p>It is shared with nobody.</p>}
      <ul className="grid gap-1">
        {lines.fields.map((line, i) => {
          const words = wordsOf(line)
          return (
            <li key={line.id} className="flex flex-wrap items-center gap-x-5 border-b border-rule pb-1">
              <strong className="flex-1 basis-52">{words}</strong>
              <span role="group" aria-label={`${words} may`} className="flex flex-wrap gap-x-5">
                {(
                  [
                    ['mayGive', 'give it'],
                    ['maySeeResults', 'see all results'],
                    ['mayEdit', 'edit it'],
                  ] as const
                ).map(([name, label]) => (
                  <Tick key={name} label={label} {...register(`shares.${i}.${name}`)} />
                ))}
              </span>
              <Button kind="quiet" onClick={() => lines.remove(i)}>
                Remove<span className="sr-only"> {words}</span>
              </Button>
            </li>
          )
        })}
      </ul>
      <Theirs
        of={of}
        name="shares"
        label="with whom it is shared"
        words={(theirs) => theirs.map(wordsOf).join('; ') || 'shared with nobody'}
      />
      <label className="block text-[13px] font-bold">
        Share with
        <Select value="" onChange={(e) => e.target.value && add(e.target.value)} className="mt-1 font-normal">
          <option value="">Choose a colleague, a team or the school</option>
          {!isIn('school', null) && <option value="school|">All teachers of the school</option>}
          {groups.map(([audience, label]) => (
            <optgroup key={audience} label={label}>
              {sharing.offered[audience]
                .filter((o) => !isIn(audience, o.id))
                .map((o) => (
                  <option key={o.id} value={`${audience}|${o.id}`}>
                    {wordsOf({ with: audience, name: o.name })}
                  </option>
                ))}
            </optgroup>
          ))}
        </Select>
      </label>
    </DialogForm>
  )
}
