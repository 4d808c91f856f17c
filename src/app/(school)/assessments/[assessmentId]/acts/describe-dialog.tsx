'use client'
import { tagsIn } from '@/core/tags'
import { limits } from '@/core/limits'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText, FormTextArea } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { QueryOutput } from '@/server/registry'
import type { ActProps } from './act-props'
import { LoadedDialog } from './loaded-dialog'

interface Values {
  readonly name: string
  readonly description: string
  readonly tags: string
  readonly yearGroupId: string
}

/** What an assessment is called, and what helps to find it. */
export function DescribeDialog(props: ActProps) {
  return (
    <LoadedDialog
      title="Name, description and tags"
      query="assessment.describing"
      input={{ assessmentId: props.server.id }}
      onClose={() => props.onClose(false)}
    >
      {(offered) => <DescribeForm {...props} offered={offered} />}
    </LoadedDialog>
  )
}

function DescribeForm({
  server,
  offered,
  onClose,
}: ActProps & { offered: QueryOutput<'assessment.describing'> }) {
  const of = useCommandForm('assessment.describe', {
    schema: () => import('@/core/assessment/sharing-inputs').then((m) => m.describeInput),
    values: {
      name: server.name,
      description: server.description ?? '',
      tags: server.tags.join(', '),
      yearGroupId: server.yearGroupId ?? '',
    } as Values,
    edited: { version: server.version },
    places: ['name', 'description', 'tags', 'yearGroupId'],
    input: ({ tags, yearGroupId, ...values }: Values) => ({
      assessmentId: server.id,
      expectedVersion: server.version,
      ...values,
      tags: tagsIn(tags),
      yearGroupId: yearGroupId || null,
    }),
    onSaved: () => onClose(true),
  })
  const { tags } = of.form.watch()
  const used = new Set(tagsIn(tags))
  const others = offered.tags.filter((tag) => !used.has(tag)).slice(0, 12)
  return (
    <DialogForm of={of} title="Name, description and tags" onClose={() => onClose(false)}>
      <FormText of={of} name="name" label="Name" autoFocus />
      <FormTextArea of={of} name="description" label="Description" rows={3} />
      <FormText
        of={of}
        name="tags"
        label="Tags"
        help={`Words to find it by, with commas between them; at most ${limits.tags}.`}
      />
      {others.length > 0 && (
        <p className="-mt-3 flex flex-wrap gap-x-3 gap-y-1 text-[13px]">
          <span className="text-muted">In use:</span>
          {others.map((tag) => (
            <button
              key={tag}
              type="button"
              className="link min-h-6 pointer-coarse:min-h-11"
              onClick={() =>
                of.form.setValue('tags', [...tagsIn(tags), tag].join(', '), { shouldDirty: true })
              }
            >
              {tag}
            </button>
          ))}
        </p>
      )}
      <FormSelect of={of} name="yearGroupId" label="Year group">
        <option value="">any</option>
        {offered.yearGroups.map((g) => (
          <option key={g.id} value={g.id}>
            {g.name}
          </option>
        ))}
      </FormSelect>
    </DialogForm>
  )
}
