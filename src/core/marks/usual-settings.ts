import type { GradebookRules } from './gradebook'
import type { GradebookSettings } from './settings'

/** What counts, and how, where nobody says otherwise. */
export const usualRules: Omit<GradebookRules, 'bands'> = {
  method: 'weights',
  decimals: 1,
  emptyCounts: 'nothing',
  missingCounts: 'zero',
  incompleteCounts: 'nothing',
  late: null,
  most: '100',
}

/** What most gradebooks begin with. */
export const usualSettings: GradebookSettings = {
  ...usualRules,
  categories: [
    { name: 'Unit tests', weight: '60', within: 'points', dropLowest: 0 },
    { name: 'Written work', weight: '25', within: 'points', dropLowest: 0 },
    { name: 'Homework', weight: '15', within: 'points', dropLowest: 1 },
  ],
}
