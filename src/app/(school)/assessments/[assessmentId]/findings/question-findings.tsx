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
  const assessed = f.summary.assessed
  const columns: readonly Column<Line>[] = [
    {
      id: 'position',
      title: 'No.',
      heading: true,
      align: 'right',
      value: ({ q }) => q.position,
      cell: ({ q }) =>
        q.page || q.rationale ? (
          <Opens
            of=", show the question"
            onOpen={() => onShow({ title: `Question ${q.position}`, students: [], question: q })}
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
      cell: ({ q }) =>
        q.standardIds
          .map((id) => f.knownStandards.find((t) => t.id === id))
          .map((t) => t?.code ?? t?.statement)
          .join(', '),
    },
    {
      id: 'share',
      title: 'Share of points',
      className: 'w-44',
      value: ({ finding }) => finding?.share ?? 2,
      cell: (line) => <Share line={line} onShow={onShow} />,
    },
    {
      id: 'answers',
      title: 'Answers',
      cell: (line) => <Chosen line={line} onShow={onShow} />,
    },
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
            question: q,
            students: finding?.without ?? [],
          })
        }
      >
        {percent === undefined ? '–' : `${percent}%`}
      </Opens>
    </span>
  )
}

/** What is shown of many different answers; the rest is one figure. */
const most = 8

interface Part {
  readonly label: string
  readonly words: string
  readonly students: readonly string[]
  readonly isKey: boolean
}

/** Who answered what, the answers of one kind under each other. */
function partsOf({ q, finding }: Line): readonly Part[] {
  if (!finding) return []
  const shown = finding.groups.slice(0, most)
  const rest = finding.groups.slice(most).flatMap((g) => g.students)
  const parts = shown.map(({ label, share, students }): Part => {
    const isKey = share !== undefined && share.num === share.den
    return { label, words: `answered ${label}${isKey ? ', the key' : ''}`, students, isKey }
  })
  if (rest.length > 0)
    parts.push({ label: 'other', words: 'answered otherwise', students: rest, isKey: false })
  parts.push({ label: 'left out', words: 'left out', students: finding.leftOut, isKey: false })
  if (finding.unmarked.length > 0)
    parts.push({ label: 'not marked', words: 'not marked yet', students: finding.unmarked, isKey: false })
  return q.counts === 'keyed' ? parts : parts.map((part) => ({ ...part, isKey: false }))
}

/** How many gave each answer, or left the question out. */
function Chosen({ line, onShow }: { line: Line; onShow: (behind: Behind) => void }) {
  const { q } = line
  return (
    <span className="flex flex-wrap items-baseline gap-y-1">
      {q.counts !== 'keyed' && (
        <span className="mr-3 text-muted">{q.counts === 'dropped' ? 'dropped for all' : 'given to all'}</span>
      )}
      {partsOf(line).map(({ label, words, students, isKey }) => (
        <span
          key={label}
          className={`mr-2 inline-flex min-w-14 items-baseline gap-1 px-1 ${isKey ? 'bg-shoal' : ''} ${students.length === 0 ? 'text-muted' : ''}`}
        >
          <span className={isKey ? 'font-bold' : ''}>{label}</span>
          {students.length === 0 ? (
            '0'
          ) : (
            <Opens
              of={`at question ${q.position}: ${words}`}
              onOpen={() =>
                onShow({ title: `Question ${q.position}: ${words}`, students, question: q, answer: label })
              }
            >
              {students.length}
            </Opens>
          )}
          {isKey && <span className="text-[11px]">key</span>}
        </span>
      ))}
    </span>
  )
}
