import type { Metadata } from 'next'
import { spokenName } from '@/core/people/names'
import { actor, fetchForPage } from '@/screen/page-data'

export const metadata: Metadata = { title: 'Report cards' }

export default async function CardsPage() {
  const [cards, { timeZone }] = await Promise.all([fetchForPage('reports.myCards', {}), actor()])
  const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone })
  return (
    <div className="sheet max-w-3xl">
      <h1 className="mb-1">Report cards</h1>
      <p className="mb-5 text-muted">
        What the school has released for your children. You get a mail whenever something new is here.
      </p>
      {cards.length === 0 ? (
        <p>Nothing has been released yet.</p>
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
                PDF{c.issue > 1 && `, issue ${c.issue}`}, released {day.format(new Date(c.releasedAt))}
              </span>
              {c.replacedAt ? (
                <span>replaced by a newer issue</span>
              ) : (
                c.leftOut.length > 0 && (
                  <span className="w-full text-[13px]">Still to follow: {c.leftOut.join(', ')}.</span>
                )
              )}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
