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
  /** A date as YYYY-MM-DD. */
  date: 10,
  /** A code of attendance. */
  code: 4,
  /** A session of a register: a half-day or the number of a period. */
  session: 10,
  yearName: 20,
  grade: 20,
  /** Names of terms, year groups, homerooms and rooms. */
  partName: 40,
  /** What somebody types to sign in: a user name or an e-mail address. */
  signInName: 300,
  password: 200,
  /** Keys, tokens and fingerprints, which Kedge makes itself. */
  key: 100,
  findText: 80,
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
  /** Guardians beside the first, when a student is enrolled. */
  guardiansAtOnce: 4,
  questions: 200,
  choices: 10,
  levels: 5,
  /** Lines that say with whom something is shared. */
  shares: 40,
  tags: 12,
  standardsOfQuestion: 20,
  standardsOfAssessment: 200,
  /** Learning standards that are read at once. */
  standards: 5000,
  statement: 2000,
  standardCode: 60,
  standardYears: 20,
  /** A number as it is written in an answer or a key. */
  numberText: 40,
  unit: 20,
  /** A short answer, or one that is accepted. */
  shortResponse: 200,
  accepted: 20,
  writtenResponse: 20_000,
  page: 500,
  wholePercent: 100,
  codes: 60,
  periods: 20,
  cycleDays: 20,
  lessons: 20_000,
  grades: 20,
  closures: 60,
  yearGroups: 20,
  yearGroupsAtOnce: 40,
  homeroomsAtOnce: 12,
  roomsAtOnce: 60,
  /** Subjects or groups that are added, joined or left in one act. */
  partsAtOnce: 40,
  /** Subjects, rooms or year groups that are put in order. */
  partsInOrder: 200,
  teachersOfClass: 12,
  homeroomsOfClass: 24,
  classesOfStudent: 60,
  classesOfAssessment: 30,
  classesOfAnAct: 2000,
  /** Students of an act that a person looks through before. */
  studentsAtOnce: 500,
  studentsOfAnAct: 2000,
  recipients: 5000,
  /** Values that one request saves. */
  cells: 4000,
  /** Queries that a page follows. */
  liveQueries: 20,
  listColumns: 200,
  dropLowest: 20,
  categories: 20,
  /** Assignments of a gradebook that are put in order. */
  assignments: 300,
  /** Lines of reports that are filled in one act. */
  feeds: 2000,
  /** What a calculated column is worked out from. */
  columnParts: 40,
  decimals: 3,
  questionPoints: '9999.99',
  points: '99999.99',
  weight: '9999.99',
  /** The highest term mark, in percent. */
  most: '999.99',
  percent: '100',
  /** Bytes of an uploaded document: 25 MB. */
  upload: 25 * 1024 * 1024,
  /** Files that are joined into one document. */
  filesOfDocument: 40,
  /** Pages of a test. */
  pagesOfTest: 500,
  /** Parts of a word-processor file, the bytes of what is read of it once it is unpacked, and its pictures. */
  partsOfFile: 4000,
  unpacked: 120 * 1024 * 1024,
  picturesOfFile: 200,
  /** Pages of any stored file. */
  pages: 100_000,
  /** Bytes of any stored file; a print of a whole school is far below it. */
  file: 512 * 1024 * 1024,
  /** Bytes of a file that are read at once. */
  filePart: 8 * 1024 * 1024,
  /** Bytes of a request's JSON. */
  request: 1024 * 1024,
  /** Rows that an act changes while a page waits for it; what changes more is background work. */
  actAtOnce: 5000,
  /** What a list shows at most, the newest first; it says so when there is more. */
  mailsShown: 200,
  lettersShown: 1000,
  reportsShown: 100,
  /** Records that a check names of those that break a rule. */
  foundBroken: 20,
  /** Bytes of a list that is made a workbook: 50,000 people with ten columns are below it. */
  list: 24 * 1024 * 1024,
  /** Cells of such a list: 50,000 people with ten columns. */
  listCells: 500_000,
} as const
