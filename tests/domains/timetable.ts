import { staff, office, adminAndOffice, type Entries } from './entry'

export const entries: Entries = {
  shown: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  saveTimetable: {
    who: adminAndOffice,
    aboutOneself: true,
    input: () => ({
      timetableId: null,
      expectedVersion: 0,
      name: 'x',
      firstDay: '2026-11-23',
      lastDay: '2026-11-23',
      cycle: 'week',
      cycleDays: 5,
      periods: [{ starts: '09:00', ends: '10:00' }],
    }),
  },
  removeTimetable: {
    who: adminAndOffice,
    aboutOneself: true,
    input: (o) => ({ timetableId: o.roundId, expectedVersion: 0 }),
  },
  setLesson: {
    who: adminAndOffice,
    input: (o) => ({
      timetableId: o.timetableId,
      cycleDay: 1,
      period: 1,
      gone: null,
      lesson: null,
      confirmed: false,
    }),
    draw: (random) => ({
      cycleDay: 1 + random.below(5),
      period: 1 + random.below(5),
      gone: null,
      confirmed: true,
    }),
  },
  replaceLessons: {
    who: adminAndOffice,
    input: (o) => ({ timetableId: o.timetableId, expectedVersion: 0, lessons: [] }),
  },
  changeLesson: {
    who: office,
    aboutOneself: true,
    input: (o) => ({
      classId: o.classId,
      date: '2026-11-22',
      period: 1,
      expectedVersion: 0,
      cancelled: false,
      staffId: null,
      roomId: null,
      note: null,
      confirmed: false,
    }),
    draw: (random, world) => ({
      ...world.lesson(random),
      cancelled: random.below(3) === 0,
      staffId: random.below(4) === 0 ? null : world.idFor('staffId', random, {}),
      confirmed: true,
    }),
  },
}
