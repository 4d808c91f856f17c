'use client'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { LevelShape } from '@/app/(school)/assessments/[assessmentId]/level-mark'
import { Opens } from './figures'
import type { Behind, Findings } from './shown'

type Standard = Findings['byStandard'][number]

/** Each learning standard with its questions and how many students are on which level. */
export function StandardFindings({
  findings: f,
  onShow,
}: {
  findings: Findings
  onShow: (behind: Behind) => void
}) {
  const standardOf = (s: Standard) => f.knownStandards.find((x) => x.id === s.standardId)
  const codeOf = (s: Standard) => standardOf(s)?.code ?? standardOf(s)?.statement ?? ''
  const columns: readonly Column<Standard>[] = [
    {
      id: 'standard',
      title: 'Standard',
      heading: true,
      cell: (s) => (
        <>
          <strong>{standardOf(s)?.code}</strong> {standardOf(s)?.statement}
        </>
      ),
    },
    {
      id: 'questions',
      title: 'Questions',
      className: 'text-muted',
      cell: (s) => s.questionPositions.join(', '),
    },
    ...f.levels.map(({ name }, place): Column<Standard> => ({
      id: name,
      title: name,
      mark: <LevelShape place={place} of={f.levels.length} />,
      align: 'right',
      cell: (s) => (
        <Opens
          of={`${name} in ${codeOf(s)}`}
          onOpen={() => onShow({ title: `${codeOf(s)}: ${name}`, students: s.byLevel[place] ?? [] })}
        >
          {s.byLevel[place]?.length ?? 0}
        </Opens>
      ),
    })),
  ]
  return (
    <DataTable
      label="Learning standards"
      rows={f.byStandard}
      columns={columns}
      rowKey={(s) => s.standardId}
      empty={<p>No question is tagged with a learning standard.</p>}
    />
  )
}
