import { shortDate } from '@/core/calendar/date-words'
import type { PageOf } from '@/screen/page-head'

/** The pages of an assessment that somebody may see, in the order of the work. */
export function assessmentPages({
  id,
  seriesId,
  maySeeResults,
  maySeeAll,
}: {
  readonly id: string
  readonly seriesId: string | null
  readonly maySeeResults: boolean
  readonly maySeeAll: boolean
}): readonly PageOf[] {
  return [
    { name: 'Answer key', href: `/assessments/${id}` },
    { name: 'Preview', href: `/assessments/${id}/preview` },
    ...(maySeeResults
      ? [
          { name: 'Answers', href: `/assessments/${id}/answers` },
          { name: 'Findings', href: `/assessments/${id}/findings` },
        ]
      : []),
    ...(seriesId && maySeeAll ? [{ name: 'Series', href: `/assessments/${id}/series` }] : []),
  ]
}

/** To which classes it was given, and when, and whose it is where it is a colleague's: "8 Science A, given 12 Nov". */
export const givenTo = ({
  classes,
  givenOn,
  mine,
  owner,
  ownerLeft,
}: {
  readonly classes: readonly { readonly name: string }[]
  readonly givenOn: string | null
  readonly mine: boolean
  readonly owner: string
  readonly ownerLeft: boolean
}): string =>
  [
    classes.map((c) => c.name).join(', '),
    givenOn && `given ${shortDate(givenOn)}`,
    !mine && `by ${owner}${ownerLeft ? ', who has left the school' : ''}`,
  ]
    .filter(Boolean)
    .join(', ')
