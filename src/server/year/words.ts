import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('year', {
  overlaps: ({ year }: { year: string }) =>
    `These days are part of ${year}, which already exists. Someone may have created this year before you.`,
  yearGone: () => 'This academic year no longer exists. Reload the page.',
  yearGroupExists: ({ name }: { name: string }) =>
    `${name} already exists. Nothing was added; remove it from the list.`,
  homeroomExists: ({ name }: { name: string }) =>
    `The homeroom ${name} would exist twice. Nothing was added; change the list.`,
})
