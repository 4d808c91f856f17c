import { shortDate } from '@/core/calendar/date-words'
import type { PageOf } from '@/screen/page-head'

/** The pages of an assessment, in the order of the work. */
export function assessmentPages({
  id,
  seriesId,
}: {
  readonly id: string
  readonly seriesId: string | null
}): readonly PageOf[] {
  return [
    { name: 'Answer key', href: `/assessments/${id}` },
    { name: 'Answers', href: `/assessments/${id}/answers` },
    { name: 'Findings', href: `/assessments/${id}/findings` },
    ...(seriesId ? [{ name: 'Series', href: `/assessments/${id}/series` }] : []),
  ]
}

/** To which classes it was given, and when: "8 Science A, given 12 Nov". */
export const givenTo = ({
  classes,
  givenOn,
}: {
  readonly classes: readonly { readonly name: string }[]
  readonly givenOn: string | null
}): string =>
  [classes.map((c) => c.name).join(', '), givenOn && `given ${shortDate(givenOn)}`].filter(Boolean).join(', ')
