import type { HalfDayMark } from './half-day-mark'
import { addDays, schoolDays, weekday } from '@/core/calendar/school-year'
import { codeSetId, wracklineCodes } from './codes'
import type { DemoPeople, DemoStudent } from './people'
import type { Random } from './random'
import type { DemoStructure } from './structure'
import { timetableRows } from './timetable'

/** Registers of every school day so far; of today's morning, those of the homerooms that are usually early. */
export function attendanceRows(
  school: { id: string },
  s: DemoStructure,
  people: DemoPeople,
  random: Random,
): readonly (readonly [string, readonly object[]])[] {
  const { students } = people
  const own = { school_id: school.id }
  const set = { ...own, id: codeSetId, name: 'Attendance codes', first_day: '2020-01-01', last_day: null }
  const codes = wracklineCodes.map(([code, label, meaning], i) => ({
    ...own,
    id: random.uuid(),
    set_id: set.id,
    code,
    label,
    meaning,
    position: i + 1,
  }))
  const idOf = new Map(codes.map((c) => [c.code, c.id]))
  const days = schoolDays(s.year, s.year.firstDay, s.today)
  const mondays = new Set(days.filter((day) => weekday(day) === 1))
  const storm = days[Math.floor(days.length * 0.8)]
  const early = new Set(s.homerooms.filter((h, i) => h.name !== '7 Tern' && i % 3 !== 1).map((h) => h.id))
  const marks: HalfDayMark[] = []
  // A few come less and less on Mondays and Fridays.
  const drifting = new Set(students.filter((_, i) => i % 97 === 40).map((x) => x.id))
  const drift = (student: DemoStudent, date: string, session: string) =>
    drifting.has(student.id) &&
    date > (days[Math.floor(days.length / 3)] ?? date) &&
    (weekday(date) === 5 || (weekday(date) === 1 && session === 'morning'))

  const markDay = (student: DemoStudent, date: string, illness: number) => {
    const homeroom =
      student.earlier && date < student.earlier.until ? student.earlier.homeroom : student.homeroom
    const at = new Date(`${date}T09:00:00Z`)
    for (const session of ['morning', 'afternoon'] as const) {
      if (date === s.today && (session === 'afternoon' || !early.has(homeroom.id))) continue
      const stormy = date === storm && student.ferry !== null
      const monday = mondays.has(date) ? 2.5 : 1
      const roll = random.next()
      const code = stormy
        ? 'W'
        : drift(student, date, session)
          ? 'A'
          : illness > 0
            ? date > (days.at(-4) ?? date) && roll < 0.4
              ? 'A'
              : 'A1'
            : session === 'morning' && roll < student.late * monday
              ? 'L'
              : roll > 0.997
                ? 'A3'
                : roll > 0.995
                  ? 'A'
                  : roll > 0.992 && session === 'afternoon'
                    ? 'E1'
                    : 'P'
      marks.push({
        ...own,
        student_id: student.id,
        session_date: date,
        session,
        homeroom_id: homeroom.id,
        code_id: idOf.get(code),
        version: 1,
        minutes_late: code === 'L' ? 3 + random.below(20) : null,
        note: code === 'A1' && illness === 3 && session === 'morning' ? 'Guardian rang' : null,
        changed_by: `${homeroom.teacher.given} ${homeroom.teacher.family}`,
        changed_at: new Date(at.getTime() + (session === 'afternoon' ? 14400000 : 0)).toISOString(),
      })
    }
  }
  for (const student of students) {
    let illness = 0
    for (const date of days) {
      if (date < student.since) continue
      if (illness > 0) illness--
      else if (random.next() < student.ill / 2.5) illness = 1 + random.below(4)
      markDay(student, date, illness)
    }
  }
  return [
    ['attendance_code_set', [set]],
    ['attendance_code', codes],
    ['attendance_mark', marks],
    ...timetableRows(school, s, people, marks, idOf),
    ...letterAndReport(own, s, students),
    ['planned_absence', plannedRows(own, s, students, (code) => idOf.get(code) ?? '')],
  ]
}

/** The letter the office writes about attendance, and an absence that a guardian has reported this morning. */
function letterAndReport(
  own: { school_id: string },
  { today }: DemoStructure,
  students: readonly DemoStudent[],
): readonly (readonly [string, readonly object[]])[] {
  const ilse = students.find((s) => s.family === 'Okonjo-Marsh')
  const mother = ilse?.guardians[0]
  return [
    [
      'letter_template',
      [
        {
          ...own,
          id: '00000000-0000-7000-8000-1e77e2000000',
          name: 'Below 90%',
          subject: 'Attendance of {student}',
          body: 'Dear {guardian},\n\n{student} was present in {percent} of the {sessions} from {from} to {to}: {missed} of {possible} were missed, {no reason} of them without a reason yet.\n\nPlease call us, so that we can see how to help.\n\n{sender}\n{school}',
          version: 1,
        },
      ],
    ],
    [
      'absence_report',
      ilse && mother
        ? [
            {
              ...own,
              id: '00000000-0000-7000-8000-ab5e0ce20000',
              student_id: ilse.id,
              guardian_id: mother.guardian.id,
              first_day: addDays(today, 2),
              last_day: addDays(today, 2),
              sessions: 'morning',
              reason: 'Dentist on the mainland, back by noon',
              reported_at: `${today}T07:40:00Z`,
              state: 'waiting',
              answer: null,
              answered_by: null,
              version: 1,
            },
          ]
        : [],
    ],
  ]
}

/** What the office knows ahead: leave for the week, an appointment tomorrow, field work next week. */
function plannedRows(
  own: { school_id: string },
  { today }: DemoStructure,
  students: readonly DemoStudent[],
  codeOf: (code: string) => string,
): readonly object[] {
  const plans = [
    {
      homeroom: '8 Tern',
      code: 'A2',
      from: 0,
      to: 4,
      sessions: 'whole day',
      note: 'Family visit, agreed by the head',
    },
    { homeroom: '9 Plover', code: 'A3', from: 1, to: 1, sessions: 'afternoon', note: 'Dentist' },
    { homeroom: '11 Tern', code: 'E1', from: 7, to: 8, sessions: 'whole day', note: 'Shore survey' },
  ]
  return plans.flatMap(({ homeroom, code, from, to, sessions, note }, i) => {
    const student = students.filter((s) => s.homeroom.name === homeroom)[4]
    if (!student) return []
    return {
      ...own,
      id: `00000000-0000-7000-8000-ab5e0ce0000${i}`,
      student_id: student.id,
      first_day: addDays(today, from),
      last_day: addDays(today, to),
      sessions,
      code_id: codeOf(code),
      note,
      entered_by: 'Eilis Leask',
    }
  })
}
