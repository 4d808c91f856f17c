'use client'
import { levels } from '@/core/assessment/findings'
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
  const standardOf = (s: Standard) => f.standards.find((x) => x.id === s.standardId)
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
    ...levels.map((level): Column<Standard> => ({
      id: level,
      title: level,
      mark: <LevelShape level={level} />,
      align: 'right',
      cell: (s) => (
        <Opens
          of={`${level} in ${standardOf(s)?.code}`}
          onOpen={() => onShow({ title: `${standardOf(s)?.code}: ${level}`, students: s.byLevel[level] })}
        >
          {s.byLevel[level].length}
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
