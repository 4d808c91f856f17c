'use client'
import { DataTable } from '@/ui/table/data-table'
import { useTableView } from '@/ui/table/use-table-view'
import type { Column } from '@/ui/table/column'
import { Opens } from './figures'
import type { Behind, Findings } from './shown'

interface Line {
  readonly q: Findings['questions'][number]
  readonly finding: Findings['byQuestion'][number] | undefined
}

/** Each question: share of points earned, and who chose what. */
export function QuestionFindings({
  findings: f,
  onShow,
}: {
  findings: Findings
  onShow: (behind: Behind) => void
}) {
  const view = useTableView()
  const rows = f.questions.map((q): Line => ({ q, finding: f.byQuestion.find((x) => x.questionId === q.id) }))
  const letters = [...new Set(f.byQuestion.flatMap((q) => q.chosenBy.map((c) => c.letter)))]
    .filter(Boolean)
    .sort()
  const assessed = f.summary.assessed
  const columns: readonly Column<Line>[] = [
    {
      id: 'position',
      title: 'No.',
      heading: true,
      align: 'right',
      value: ({ q }) => q.position,
      cell: ({ q }) =>
        q.page ? (
          <Opens
            of=", show the question"
            onOpen={() => onShow({ title: `Question ${q.position}`, students: [], page: q.page })}
          >
            {q.position}
          </Opens>
        ) : (
          q.position
        ),
    },
    {
      id: 'standard',
      title: 'Standard',
      className: 'text-muted',
      cell: ({ q }) => f.standards.find((s) => s.id === q.standardId)?.code,
    },
    {
      id: 'share',
      title: 'Share of points',
      className: 'w-44',
      value: ({ finding }) => finding?.share ?? 2,
      cell: (line) => <Share line={line} onShow={onShow} />,
    },
    ...[...letters, ''].map((letter): Column<Line> => ({
      id: letter || 'left out',
      title: letter || 'Left out',
      align: 'right',
      cell: (line) => <Chosen line={line} letter={letter} onShow={onShow} />,
    })),
  ]
  return (
    <section className="mb-6">
      <h2 className="mb-1">Questions</h2>
      <DataTable
        label="Questions"
        rows={rows}
        columns={columns}
        rowKey={({ q }) => q.id}
        view={view}
        empty={<p>There are no questions.</p>}
      />
      <p className="mt-1 text-[12px] text-muted">
        {assessed} students. Select a figure to see who, with the page of the test beside it. Sort by share of
        points for the hardest first.
      </p>
    </section>
  )
}

function Share({ line: { q, finding }, onShow }: { line: Line; onShow: (behind: Behind) => void }) {
  const percent = finding?.share === undefined ? undefined : Math.round(100 * finding.share)
  return (
    <span className="flex items-center gap-2">
      <span aria-hidden className="h-[10px] w-24 border border-line bg-panel">
        <span className="block h-full bg-ink" style={{ width: `${percent ?? 0}%` }} />
      </span>
      <Opens
        of={`of the points of question ${q.position}, show who is without them`}
        onOpen={() =>
          onShow({
            title: `Question ${q.position}: without its points`,
            page: q.page,
            students: finding?.chosenBy.filter((c) => c.letter !== q.key).flatMap((c) => c.students) ?? [],
          })
        }
      >
        {percent === undefined ? '–' : `${percent}%`}
      </Opens>
    </span>
  )
}

/** How many chose a letter, or left the question out. */
function Chosen({
  line: { q, finding },
  letter,
  onShow,
}: {
  line: Line
  letter: string
  onShow: (behind: Behind) => void
}) {
  const students = finding?.chosenBy.find((c) => c.letter === letter)?.students
  const isKey = letter !== '' && letter === q.key
  if (students === undefined) return null
  const words = `${letter ? `chose ${letter}` : 'left out'}${isKey ? ', the key' : ''}`
  return (
    <span className={isKey ? '-mx-[10px] block bg-shoal px-[10px]' : ''}>
      {students.length === 0 ? (
        <span className="text-muted">0</span>
      ) : (
        <Opens
          of={`at question ${q.position}: ${words}`}
          onOpen={() => onShow({ title: `Question ${q.position}: ${words}`, students, page: q.page })}
        >
          {students.length}
        </Opens>
      )}
      {isKey && <span className="text-[11px]"> key</span>}
    </span>
  )
}
