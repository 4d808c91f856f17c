/** The categories that most gradebooks begin with. */
export const usualCategories = [
  { name: 'Unit tests', weight: '60', dropLowest: 0 },
  { name: 'Written work', weight: '25', dropLowest: 0 },
  { name: 'Homework', weight: '15', dropLowest: 1 },
] as const
