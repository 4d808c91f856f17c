import type { QueryOutput } from '@/server/registry'
import Link from './link'

type Others = QueryOutput<'reports.rounds'>['elsewhere']

/** What a list of one academic year leaves out, with the way there. */
export function OtherYears({ of, path }: { of: Others; path: string }) {
  if (of.length === 0) return null
  return (
    <p className="mt-4 text-muted no-print">
      Other academic years:{' '}
      {of.map(({ name, date, count }, i) => (
        <span key={name}>
          {i > 0 && ', '}
          <Link className="link" href={`${path}?date=${date}`}>
            {name}
          </Link>{' '}
          ({count})
        </span>
      ))}
    </p>
  )
}
