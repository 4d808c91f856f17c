/**
 * What an input may hold at most. Each stands once: the inputs, the calculations and the checks of the database
 * all take it from here, and a test compares the database with this list. Lengths are characters; points, weights
 * and percentages are decimals as text.
 */
export const limits = {
  name: 120,
  line: 200,
  personName: 80,
  shortName: 60,
  email: 254,
  phone: 40,
  relation: 40,
  remark: 1000,
  comment: 4000,
  fileName: 200,
  minutesLate: 600,
  /** A version is a whole number of four bytes in the database. */
  version: 2_147_483_647,
  firstDate: '1900-01-01',
  /** Nobody at a school was born before. */
  firstBirth: '1920-01-01',
  lastDate: '2199-12-31',
  questions: 200,
  choices: 10,
  page: 500,
  dropLowest: 20,
  categories: 20,
  decimals: 3,
  questionPoints: '9999.99',
  points: '99999.99',
  weight: '9999.99',
  percent: '100',
  /** Bytes of an uploaded document: 25 MB. */
  upload: 25 * 1024 * 1024,
  /** Pages of any stored file. */
  pages: 100_000,
  /** Bytes of any stored file; a print of a whole school is far below it. */
  file: 512 * 1024 * 1024,
  /** Bytes of a request's JSON. */
  request: 1024 * 1024,
  /** Rows that an act changes while a page waits for it; what changes more is background work. */
  actAtOnce: 5000,
  /** Records that a check names of those that break a rule. */
  foundBroken: 20,
  /** Bytes of a list that is made a workbook: 50,000 people with ten columns are below it. */
  list: 24 * 1024 * 1024,
  /** Cells of such a list: 50,000 people with ten columns. */
  listCells: 500_000,
} as const
