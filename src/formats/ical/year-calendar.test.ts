import { yearCalendar } from './year-calendar'

const part = (over: object) => ({
  id: 'a',
  name: 'Autumn',
  firstDay: '2026-09-01',
  lastDay: '2026-12-18',
  ...over,
})

/** The lines of a calendar, unfolded. */
const linesOf = (text: string) => text.replace(/\r\n[ \t]/g, '').split('\r\n')

test('terms and days without school are whole days; the end is the day after the last', () => {
  const lines = linesOf(
    yearCalendar(
      'Wrackline School',
      {
        terms: [part({})],
        periods: [part({ id: 'c', name: 'Exams', firstDay: '2026-12-07', lastDay: '2026-12-11' })],
        closures: [part({ id: 'b', name: 'Island Day', firstDay: '2027-05-03', lastDay: '2027-05-03' })],
      },
      new Date('2026-11-23T09:05:00Z'),
    ),
  )
  expect(lines[0]).toBe('BEGIN:VCALENDAR')
  expect(lines).toContain('UID:a@kedge')
  expect(lines).toContain('SUMMARY:Autumn term')
  expect(lines).toContain('DTSTART;VALUE=DATE:20260901')
  expect(lines).toContain('DTEND;VALUE=DATE:20261219')
  expect(lines).toContain('DTSTART;VALUE=DATE:20270503')
  expect(lines).toContain('DTEND;VALUE=DATE:20270504')
  expect(lines).toContain('SUMMARY:Exams')
  expect(lines.filter((l) => l === 'BEGIN:VEVENT')).toHaveLength(3)
})

test('names with commas, line breaks and emoji stay one text', () => {
  const lines = linesOf(
    yearCalendar(
      'A, B',
      { terms: [], closures: [part({ name: 'Fire,\nsmoke; 🎇' })] },
      new Date('2026-11-23'),
    ),
  )
  expect(lines).toContain('SUMMARY:Fire\\,\\nsmoke\\; 🎇')
})
