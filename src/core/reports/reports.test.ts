import { releasedPart, type CardContents, type CardLine } from './card'
import { blanksIn, entriesActs, isWritable, type EntriesState } from './entries'

describe('the path of class entries', () => {
  const allowed = (state: EntriesState) =>
    Object.entries(entriesActs)
      .filter(([, act]) => act.from.includes(state))
      .map(([name]) => name)
  test('from each state only what makes sense', () => {
    expect(allowed('writing')).toEqual(['hand in'])
    expect(allowed('sent back')).toEqual(['hand in'])
    expect(allowed('handed in')).toEqual(['take back', 'check', 'send back'])
    expect(allowed('checked')).toEqual(['send back', 'release'])
    expect(allowed('released')).toEqual(['send back'])
  })
  test('only while writing or sent back can be written', () => {
    expect(
      (['writing', 'handed in', 'sent back', 'checked', 'released'] as const).filter(isWritable),
    ).toEqual(['writing', 'sent back'])
  })
  const marked = (mark: string | undefined) => [{ name: 'Mark', isFed: true, mark, grade: undefined }]
  test('blanks are named, student by student', () => {
    expect(
      blanksIn([
        { name: 'Abara, Tobias', values: marked('83.3'), effort: 'good', comment: 'Well done.' },
        { name: 'Bellweather, Juno', values: marked(undefined), effort: null, comment: '  ' },
        { name: 'Castellane, Rui', values: marked('70.0'), effort: 'low', comment: '' },
      ]),
    ).toEqual([
      { name: 'Bellweather, Juno', blanks: ['mark', 'effort', 'comment'] },
      { name: 'Castellane, Rui', blanks: ['comment'] },
    ])
  })
})

describe('the released part of a card', () => {
  const line = (subject: string, checked: boolean): CardLine => ({
    subject,
    className: `7 ${subject} A`,
    teacher: 'Remi Achterberg',
    mark: '83.3',
    grade: 'B',
    effort: 'good',
    comment: '',
    checked,
  })
  const card: CardContents = {
    school: 'Wrackline School',
    round: 'Autumn report, Year 7',
    year: '2026/27',
    term: 'Autumn',
    student: { id: 's', name: 'Ilse Okonjo-Marsh', number: 412, yearGroup: 'Year 7', homeroom: '7 Tern' },
    homeroomTeacher: 'Remi Achterberg',
    lines: [line('English', false), line('Science', true)],
    toFollow: [],
    attendance: {
      possible: 10,
      present: 9,
      late: 1,
      withReason: 1,
      elsewhere: 0,
      notExpected: 0,
      withoutReason: 0,
      unmarked: 0,
      percentPresent: '90.0',
    },
    scale: [],
    final: false,
    issue: 1,
    printedOn: '2026-11-23',
  }
  test('holds what is checked and names the rest as to follow', () => {
    const released = releasedPart(card)
    expect(released.lines.map((l) => l.subject)).toEqual(['Science'])
    expect(released.toFollow).toEqual(['English'])
    expect(released.final).toBe(true)
    expect(card.lines).toHaveLength(2)
  })
})
