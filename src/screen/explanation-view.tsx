import type { ExplainedScore, Explanation } from '@/core/marks/explanation'

const endings: Readonly<Partial<Record<ExplainedScore['treatment'], string>>> = {
  dropped: 'dropped',
  excused: 'not counted',
  unmarked: 'not marked yet, not counted',
  missing: 'not counted',
  incomplete: 'not counted',
  empty: '',
  'does not count': 'does not count',
  'counted as zero': 'zero',
}

/** How a mark comes about: the scores of each category with what became of them, and what the categories add to it. */
export function ExplanationView({
  why,
  byPoints,
  chosen,
}: {
  why: Omit<Explanation, 'whatIf'>
  /** Whether all points are one pool. */
  byPoints: boolean
  /** The assignment that is looked at. */
  chosen?: string | undefined
}) {
  return (
    <>
      {why.categories.map((c) => (
        <section key={c.name} className="mb-2">
          <h3 className="border-b border-ink pb-1">
            {c.name}
            {c.weight !== undefined && `, weight ${c.weight}`}
          </h3>
          <dl className="grid grid-cols-[1fr_auto_56px] gap-x-2">
            {c.scores
              .filter((s) => s.treatment !== 'empty')
              .map((s) => (
                <div
                  key={s.assignmentId}
                  className={`contents ${s.assignmentId === chosen ? 'font-bold' : ''}`}
                >
                  <dt>
                    <span className={s.treatment === 'dropped' ? 'text-muted line-through' : ''}>
                      {s.name}
                    </span>
                    {s.treatment === 'dropped' && <span className="text-[12px] text-muted"> lowest</span>}
                    {s.extra && <span className="text-[12px] text-muted"> extra credit</span>}
                    {s.lost !== undefined && (
                      <span className="text-[12px] text-muted">
                        {s.lost === '0' ? ' late' : ` late, ${s.lost} lost`}
                      </span>
                    )}
                  </dt>
                  <dd className={`text-right ${s.treatment === 'dropped' ? 'text-muted' : ''}`}>
                    {s.scored}
                  </dd>
                  <dd className="text-right">
                    {s.treatment === 'counted' ? (
                      s.percent
                    ) : (
                      <span className="text-muted">{endings[s.treatment]}</span>
                    )}
                  </dd>
                </div>
              ))}
          </dl>
          <p className="border-b border-rule pb-1 text-[12px] text-muted">{c.sum}</p>
        </section>
      ))}
      {why.contributions.length > 0 && (
        <section>
          <h3 className="border-b border-ink pb-1">{byPoints ? 'All points' : 'Weighted total'}</h3>
          <dl className="grid grid-cols-[1fr_auto] gap-x-2">
            {why.contributions.map((c) => (
              <div key={c.category} className="contents">
                <dt>
                  {c.formula}
                  {c.adjusted && <span className="text-[12px] text-muted"> adjusted for rounding</span>}
                </dt>
                <dd className="text-right font-bold" data-testid="contribution">
                  {c.value}
                </dd>
              </div>
            ))}
          </dl>
          <p className="mt-1 border-t border-rule pt-1 text-[12px] text-muted">
            <span data-testid="total">{why.total}</span>, shown as {why.mark}. {why.held} {why.band}
          </p>
          {why.weights && <p className="text-[12px] text-muted">{why.weights}</p>}
        </section>
      )}
    </>
  )
}
