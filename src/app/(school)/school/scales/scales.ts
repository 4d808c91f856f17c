import type { QueryOutput } from '@/server/registry'

export type Scales = QueryOutput<'year.scales'>

/** A scale as it is from a day on: a row of the list. */
export type ScaleFrom = Omit<Scales['scales'][number], 'changes'> &
  Scales['scales'][number]['changes'][number]

/** The rows of the list: each scale once for every day from which it has other grades. */
export const scalesFrom = ({ scales }: Scales): readonly ScaleFrom[] =>
  scales.flatMap(({ changes, ...scale }) => changes.map((change) => ({ ...scale, ...change })))

export const keyOf = ({ id, startsOn }: ScaleFrom) => `${id} ${startsOn}`
