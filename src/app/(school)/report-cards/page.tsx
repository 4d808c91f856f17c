import { spokenName } from '@/core/people/names'
import { actor, fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

export default async function CardsPage() {
  const [cards, teachers, { timeZone }] = await Promise.all([
    fetchForPage('reports.myCards', {}),
    fetchForPage('people.childrensTeachers', {}),
    actor(),
  ])
  const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone })
  return (
    <div className="sheet reading">
      <PageHead title="Report cards" />
      <p className="mb-5 text-muted">
        The report cards released for your children. You get a mail whenever a new one is here.
      </p>
      {cards.length === 0 ? (
        <p>No report cards have been released yet.</p>
      ) : (
        <ul>
          {cards.map((c) => (
            <li
              key={c.id}
              className={`flex flex-wrap items-baseline gap-x-4 border-t border-rule py-3 ${c.replacedAt ? 'text-muted' : ''}`}
            >
              <a
                className="link text-[16px] font-bold"
                href={`/api/documents/${c.documentId}`}
                target="_blank"
                rel="noreferrer"
              >
                {spokenName(c.sortName)}, {c.round}
              </a>
              <span>
                PDF{c.issue > 1 && `, version ${c.issue}`}, released {day.format(new Date(c.releasedAt))}
              </span>
              {c.replacedAt ? (
                <span>replaced by a newer version</span>
              ) : (
                c.leftOut.length > 0 && (
                  <span className="w-full text-[13px]">Still to follow: {c.leftOut.join(', ')}.</span>
                )
              )}
            </li>
          ))}
        </ul>
      )}
      {teachers.length > 0 && (
        <section className="mt-8">
          <h2 className="mb-1">Homeroom teachers</h2>
          <ul>
            {teachers.map((t) => (
              <li key={t.student + t.teacher} className="border-t border-rule py-2">
                {spokenName(t.student)}, {t.homeroom}: {spokenName(t.teacher)}
                {t.email && (
                  <>
                    ,{' '}
                    <a className="link" href={`mailto:${t.email}`}>
                      {t.email}
                    </a>
                  </>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}
