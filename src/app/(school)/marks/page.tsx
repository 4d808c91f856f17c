import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { ExplanationView } from '@/screen/explanation-view'
import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

/** What guardians see of their children's marks: the work that teachers show, with the mark that follows from it. */
export default async function MarksPage() {
  const { term, children } = await fetchForPage('marks.mine', {})
  const shown = children.filter((c) => c.classes.length > 0)
  return (
    <div className="sheet reading">
      <PageHead title="Marks" detail={term && `${term.name} term`} />
      <p className="mb-5 text-muted">
        The work that teachers show, and the mark that follows from this work alone. Final marks are in the
        report cards.
      </p>
      {shown.length === 0 && (
        <p>No marks are shown yet. Teachers choose from when they show each piece of work.</p>
      )}
      {shown.map((child) => (
        <section key={child.studentId} className="mb-8" aria-labelledby={`child-${child.studentId}`}>
          <h2 id={`child-${child.studentId}`} className="mb-1 text-[18px]">
            {spokenName(child.name)}
          </h2>
          <ul>
            {child.classes.map((c) => (
              <li key={c.classId} className="border-t border-rule">
                <details>
                  <summary className="flex cursor-pointer flex-wrap items-baseline gap-x-4 py-3">
                    <span className="min-w-44 text-[16px] font-bold">{c.subject}</span>
                    <span className="min-w-20 text-[16px]">
                      <strong>{c.why.mark ?? 'no mark yet'}</strong> {c.why.grade}
                    </span>
                    <span className="text-muted">{c.teachers}</span>
                    <span className="link ml-auto text-[13px]">How it is worked out</span>
                  </summary>
                  <div className="mb-4 grid max-w-xl gap-3 border-l-4 border-rule pl-4">
                    <div>
                      <ExplanationView why={c.why} byPoints={c.byPoints} />
                    </div>
                    <ul aria-label="Due dates" className="text-[13px]">
                      {c.assignments.map((a) => (
                        <li key={a.id}>
                          <strong>{a.name}</strong>, due {shortDate(a.dueOn)}
                          {a.description && `. ${a.description}`}
                        </li>
                      ))}
                    </ul>
                  </div>
                </details>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  )
}
