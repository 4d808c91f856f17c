import { addDays, schoolDays, weekday } from '@/core/calendar/school-year'
import type { HalfDayMark } from './half-day-mark'
import { placesOf, type DemoPeople } from './people'
import { seeded } from './random'
import type { DemoClass, DemoStructure } from './structure'

const periods = [
  ['08:50', '09:40'],
  ['09:45', '10:35'],
  ['10:55', '11:45'],
  ['11:50', '12:40'],
  ['13:30', '14:20'],
  ['14:25', '15:15'],
] as const

const subjectRooms: Readonly<Record<string, readonly string[]>> = {
  Science: ['Lab 1', 'Lab 2', 'Lab 3'],
  Biology: ['Lab 1', 'Lab 2', 'Lab 3'],
  Chemistry: ['Lab 2', 'Lab 3', 'Lab 1'],
  Physics: ['Lab 3', 'Lab 1', 'Lab 2'],
  'Marine studies': ['Boathouse'],
  Art: ['Art room'],
  Music: ['Music room'],
  Movement: ['Hall', 'Field'],
  Computing: ['Computing room'],
}

/** How many lessons a week a class has: thirty for each homeroom. */
const lessonsOf = ({ subject, yearGroup }: DemoClass): number => {
  const upper = yearGroup.number >= 10
  if (subject === 'English' || subject === 'Mathematics') return upper ? 4 : 5
  if (subject === 'Science') return 4
  if (['Biology', 'Chemistry', 'Physics'].includes(subject)) return 3
  return upper && ['Art', 'Music', 'Computing'].includes(subject) ? 1 : 2
}

interface Placed {
  readonly schoolClass: DemoClass
  readonly cycleDay: number
  readonly period: number
  readonly room: string
}

/** Lays the lessons of Years 7 to 12 out over a week, so that no homeroom, teacher or room is needed twice at once. */
function layOut(classes: readonly DemoClass[]): readonly Placed[] {
  const taken = new Set<string>()
  const placed: Placed[] = []
  const load = new Map<string, number>()
  for (const c of classes) load.set(c.teacher.id, (load.get(c.teacher.id) ?? 0) + lessonsOf(c))
  const slots = [1, 2, 3, 4, 5].flatMap((cycleDay) => periods.map((_, i) => ({ cycleDay, period: i + 1 })))
  const homeRoom = (c: DemoClass) => `Room ${c.homeroom.name}`
  const place = (c: DemoClass, cycleDay: number, period: number) => {
    const at = `${cycleDay} ${period}`
    const room = [...(subjectRooms[c.subject] ?? []), homeRoom(c)].find((r) => !taken.has(`${at} ${r}`))
    for (const who of [c.homeroom.id, c.teacher.id, room ?? '']) taken.add(`${at} ${who}`)
    placed.push({ schoolClass: c, cycleDay, period, room: room ?? homeRoom(c) })
  }
  const first = classes.find((c) => c.name === '7 Science A')
  if (first) place(first, 1, 1)
  // Whoever teaches most is placed first, while there is room.
  const order = [...classes].sort(
    (a, b) => (load.get(b.teacher.id) ?? 0) - (load.get(a.teacher.id) ?? 0) || lessonsOf(b) - lessonsOf(a),
  )
  for (const c of order) {
    const own = () => placed.filter((p) => p.schoolClass === c)
    while (own().length < lessonsOf(c)) {
      const days = own().map((p) => p.cycleDay)
      const free = slots
        .filter((s) =>
          [c.homeroom.id, c.teacher.id].every((who) => !taken.has(`${s.cycleDay} ${s.period} ${who}`)),
        )
        .sort(
          (a, b) =>
            days.filter((d) => d === a.cycleDay).length - days.filter((d) => d === b.cycleDay).length ||
            ((a.period + a.cycleDay * 2 + c.name.length) % 6) -
              ((b.period + b.cycleDay * 2 + c.name.length) % 6),
        )
      const [slot] = free
      if (!slot) break
      place(c, slot.cycleDay, slot.period)
    }
  }
  return placed
}

/** A week's timetable of Years 7 to 12, and the registers of their lessons on the last three weeks. */
export function timetableRows(
  school: { id: string },
  s: DemoStructure,
  { students }: DemoPeople,
  marks: readonly HalfDayMark[],
  codes: ReadonlyMap<string, string>,
): readonly (readonly [string, readonly object[]])[] {
  // Numbers of its own: the rest of the school stays as it is.
  const random = seeded(20261124)
  const own = { school_id: school.id }
  const timetableId = random.uuid()
  const classes = s.classes.filter((c) => c.yearGroup.number >= 7 && c.terms.length > 1)
  const placed = layOut(classes)
  const rooms = new Map([...new Set(placed.map((p) => p.room))].sort().map((name) => [name, random.uuid()]))
  const lessons = placed.map((p) => ({
    ...own,
    id: random.uuid(),
    timetable_id: timetableId,
    cycle_day: p.cycleDay,
    period: p.period,
    class_id: p.schoolClass.id,
    room_id: rooms.get(p.room),
    version: 1,
  }))
  const days = schoolDays(s.year, addDays(s.today, -20), s.today)
  const halfDay = new Map(marks.map((m) => [`${m.student_id} ${m.session_date} ${m.session}`, m]))
  const away = new Set(['A', 'A1', 'A2', 'A3', 'E1', 'W', 'N'].flatMap((code) => codes.get(code) ?? []))
  const memberships = students.flatMap((student) =>
    student.homeroom.yearGroup.number < 7 ? [] : placesOf(s, student).map((p) => ({ student, ...p })),
  )
  const members = new Map<string, typeof memberships>()
  for (const m of memberships) members.set(m.classId, [...(members.get(m.classId) ?? []), m])
  const lessonMarks = days.flatMap((date) =>
    placed
      .filter((p) => p.cycleDay === weekday(date))
      .flatMap((p) => {
        const { schoolClass: c, period } = p
        // Today's first lesson is under way, and so far one in three has begun to mark it.
        if (date === s.today && (period > 1 || c.name === '7 Science A' || c.name.length % 3 > 0)) return []
        const [starts] = periods[period - 1] ?? ['09:00']
        return (members.get(c.id) ?? [])
          .filter((m) => m.from <= date && (m.until === null || date < m.until))
          .flatMap(({ student }, i) => {
            const known = halfDay.get(`${student.id} ${date} ${period <= 4 ? 'morning' : 'afternoon'}`)
            if (!known) return []
            const late = period === 1 && known.code_id === codes.get('L')
            // Somebody was at school this morning and has not come to the first lesson.
            const slips = random.next() < 0.003 || (date === s.today && c.name === '12 English B' && i === 3)
            const code = away.has(known.code_id ?? '')
              ? known.code_id
              : codes.get(late ? 'L' : slips ? 'A' : 'P')
            return {
              ...own,
              student_id: student.id,
              session_date: date,
              session: String(period),
              homeroom_id: null,
              class_id: c.id,
              code_id: code,
              version: 1,
              minutes_late: late ? known.minutes_late : null,
              note: null,
              changed_by: `${c.teacher.given} ${c.teacher.family}`,
              changed_at: `${date}T${starts}:00Z`,
            }
          })
      }),
  )
  return [
    ['room', [...rooms].map(([name, id]) => ({ ...own, id, name }))],
    [
      'timetable',
      [
        {
          ...own,
          id: timetableId,
          name: `Timetable ${s.year.name}`,
          first_day: s.year.firstDay,
          last_day: s.year.lastDay,
          cycle: 'week',
          cycle_days: 5,
          version: 1,
        },
      ],
    ],
    [
      'timetable_period',
      periods.map(([starts, ends], i) => ({
        ...own,
        timetable_id: timetableId,
        number: i + 1,
        starts,
        ends,
      })),
    ],
    ['lesson', lessons],
    ['attendance_mark', lessonMarks],
    ['lesson_change', coverRows(own, s, placed)],
  ]
}

/** One colleague is away today: each of the lessons is covered by somebody who is free, the last is cancelled. */
function coverRows(
  own: { school_id: string },
  s: DemoStructure,
  placed: readonly Placed[],
): readonly object[] {
  const today = placed.filter((p) => p.cycleDay === weekday(s.today))
  const away =
    today.find((p) => p.schoolClass.name === '9 History A')?.schoolClass.teacher ??
    today[0]?.schoolClass.teacher
  const cover = s.staff.filter((t) => t.role === 'teacher')
  const remi = cover[0]
  return today
    .filter((p) => p.schoolClass.teacher === away)
    .map((p, i, all) => {
      const busy = new Set(today.filter((x) => x.period === p.period).map((x) => x.schoolClass.teacher.id))
      const free = [...(remi && i === 0 ? [remi] : []), ...cover.slice(20)].find(
        (t) => !busy.has(t.id) && t !== away,
      )
      const cancelled = i === all.length - 1 && all.length > 1
      return {
        ...own,
        class_id: p.schoolClass.id,
        on_date: s.today,
        period: p.period,
        cancelled,
        staff_id: cancelled ? null : (free?.id ?? null),
        room_id: null,
        note: cancelled ? 'Study time in the hall' : 'Work is on the desk',
        version: 1,
        changed_by: 'Ewan Leask',
        changed_at: `${s.today}T07:50:00Z`,
      }
    })
}
