import { staff, admin, management, type Entries } from './entry'

export const entries: Entries = {
  calendar: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  classesAndParts: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  addSubjects: { who: admin, aboutOneself: true, input: () => ({ names: ['Science'] }) },
  scales: { who: staff, aboutOneself: true },
  settings: { who: management, aboutOneself: true },
  saveSettings: {
    who: admin,
    aboutOneself: true,
    input: () => ({ teachersSee: 'places', attendanceThreshold: 90, expectedVersion: 0 }),
  },
  saveSchool: {
    who: admin,
    aboutOneself: true,
    input: () => ({ name: 'Wrackline School', address: null, timeZone: 'Europe/London', expectedVersion: 0 }),
  },
  addRooms: { who: admin, aboutOneself: true, input: () => ({ names: ['Laboratory'] }) },
  saveHomeroom: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({
      homeroomId: o.homeroomId,
      expectedVersion: 0,
      roomId: null,
      staffIds: [],
      from: '2026-11-23',
    }),
  },
  closeHomeroom: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ homeroomId: o.homeroomId, expectedVersion: 0, lastDay: '2026-11-23' }),
    draw: (random) => ({ lastDay: random.pick(['2026-11-27', '2027-01-15', '2026-11-20']) }),
  },
  saveScale: {
    who: admin,
    aboutOneself: true,
    input: () => ({
      scaleId: null,
      expectedVersion: 0,
      name: `Scale ${Math.random()}`,
      startsOn: null,
      bands: [
        { grade: 'A', fromPercent: '50' },
        { grade: 'B', fromPercent: '0' },
      ],
    }),
    draw: (random) => ({
      name: random.pick(['Levels', 'Marks', 'New scale']),
      startsOn: random.pick([null, '2027-01-11']),
      bands: [
        { grade: 'A', fromPercent: '60' },
        { grade: 'B', fromPercent: '0' },
      ],
    }),
  },
  removeScaleChange: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ scaleId: o.classId, startsOn: '2027-01-11', expectedVersion: 0 }),
    draw: (random) => ({ startsOn: random.pick(['2027-01-11', '2026-09-01']) }),
  },
  removeScale: { who: admin, aboutOneself: true, input: (o) => ({ scaleId: o.classId, expectedVersion: 0 }) },
  saveClosure: {
    who: admin,
    input: (o) => ({
      closureId: null,
      expectedVersion: 0,
      yearId: o.yearId,
      kind: 'holiday',
      name: 'x',
      firstDay: '2020-01-01',
      lastDay: '2020-01-01',
    }),
    draw: (random) => {
      const day = random.pick(['2026-11-20', '2026-11-23', '2026-12-02', '2026-11-16'])
      return { firstDay: day, lastDay: random.below(2) === 0 ? day : '2026-12-02' }
    },
  },
  removeClosure: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ closureId: o.roundId, expectedVersion: 0 }),
  },
  renamePart: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ kind: 'subject', partId: o.roundId, expectedVersion: 0, name: 'Astronomy' }),
  },
  removePart: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ kind: 'subject', partId: o.roundId, expectedVersion: 0 }),
  },
  orderParts: { who: admin, aboutOneself: true, input: (o) => ({ kind: 'subject', ids: [o.roundId] }) },
  feed: { who: staff, aboutOneself: true },
  setFeed: { who: staff, aboutOneself: true, input: () => ({ token: 'x'.repeat(43) }) },
  saveTerm: {
    who: admin,
    input: (o) => ({
      termId: null,
      expectedVersion: 0,
      yearId: o.yearId,
      name: 'Autumn',
      firstDay: '2026-09-01',
      lastDay: '2026-09-02',
    }),
  },
  savePeriod: {
    who: admin,
    input: (o) => ({
      periodId: null,
      expectedVersion: 0,
      termId: o.termId,
      kind: 'exams',
      name: 'Exams',
      firstDay: '2020-12-01',
      lastDay: '2020-12-04',
    }),
  },
  removePeriod: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ periodId: o.yearId, expectedVersion: 0 }),
  },
  removeTerm: { who: admin, aboutOneself: true, input: (o) => ({ termId: o.roundId, expectedVersion: 0 }) },
  setTermOpen: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ termId: o.roundId, expectedVersion: 0, open: true }),
  },
  saveYear: {
    who: admin,
    input: (o) => ({
      yearId: o.yearId,
      expectedVersion: 0,
      name: 'x',
      firstDay: '2026-09-01',
      lastDay: '2026-09-02',
      weekdays: [1],
    }),
  },
  setRegisters: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({
      groups: [{ yearGroupId: o.roundId, expectedVersion: 0, registers: 'both' }],
    }),
  },
  create: {
    who: admin,
    aboutOneself: true,
    input: () => ({ name: '', firstDay: '', lastDay: '', weekdays: [1], terms: [] }),
  },
  addYearGroups: {
    who: admin,
    aboutOneself: true,
    input: (o) => ({ yearId: o.roundId, names: ['x'], homerooms: [] }),
  },
}
