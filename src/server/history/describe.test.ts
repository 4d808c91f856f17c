import { describeChange, type ChangeRow } from './describe'

const row = (over: Partial<ChangeRow>): ChangeRow => ({
  id: '1',
  at: new Date(),
  actor: 'Remi Achterberg',
  command: 'x',
  table_name: 'score',
  operation: 'update',
  row_key: {},
  before: null,
  after: null,
  ...over,
})
const names = new Map([
  ['code-p', 'P Present'],
  ['code-a1', 'A1 Absent, illness'],
  ['hw', 'Week 7'],
  ['tern', '7 Tern'],
  ['heat', 'Heat and ice'],
  ['q4', 'question 4'],
])

describe('a change in words', () => {
  test('an attendance mark names the session and both codes', () => {
    const words = describeChange(
      row({
        table_name: 'attendance_mark',
        row_key: { session_date: '2026-11-23', session: 'morning' },
        before: { code_id: 'code-p' },
        after: { code_id: 'code-a1', note: 'Guardian rang' },
      }),
      names,
    )
    expect(words).toEqual({
      kind: 'Attendance',
      which: 'Mon 23 Nov, morning',
      changes: [
        { what: 'mark', from: 'P Present', to: 'A1 Absent, illness' },
        { what: 'note', from: '', to: 'Guardian rang' },
      ],
    })
  })
  test('a score names the assignment; points and standing from what to what', () => {
    expect(
      describeChange(
        row({
          row_key: { assignment_id: 'hw' },
          before: { points: 7.5, standing: null },
          after: { points: null, standing: 'missing' },
        }),
        names,
      ),
    ).toMatchObject({
      kind: 'Score',
      which: 'Week 7',
      changes: [
        { what: 'points', from: '7.5', to: '' },
        { what: 'standing', from: '', to: 'missing' },
      ],
    })
  })
  test('an answer names assessment and question', () => {
    const words = describeChange(
      row({
        table_name: 'answer',
        row_key: { assessment_id: 'heat', question_id: 'q4' },
        before: { choice: 'B' },
        after: { choice: 'A' },
      }),
      names,
    )
    expect([words.which, words.changes[0]]).toEqual([
      'Heat and ice, question 4',
      { what: 'choice', from: 'B', to: 'A' },
    ])
  })
  test('a period is told as dates, an open end as none', () => {
    const period = (value: string) =>
      describeChange(
        row({
          table_name: 'homeroom_member',
          operation: 'insert',
          row_key: { homeroom_id: 'tern' },
          after: { period: value },
        }),
        names,
      ).changes[0]?.to
    expect(period('[2026-11-09,)')).toBe('from Mon 9 Nov 2026')
    expect(period('[2026-09-01,2026-11-09)')).toBe('from Tue 1 Sep 2026 to before Mon 9 Nov 2026')
  })
  test('dates and yes or no are told as such', () => {
    expect(
      describeChange(row({ table_name: 'guardianship', after: { may_receive_reports: false } }), names)
        .changes,
    ).toEqual([{ what: 'receives reports', from: '', to: 'no' }])
    expect(
      describeChange(row({ table_name: 'student', after: { birth_date: '2015-03-04' } }), names).changes,
    ).toEqual([{ what: 'birth date', from: '', to: 'Wed 4 Mar 2015' }])
  })
  test('a change of nothing worth telling, and a table without words, still say that something happened', () => {
    expect(
      describeChange(row({ table_name: 'answer_sheet', operation: 'insert', after: {} }), names).changes,
    ).toEqual([{ what: 'made', from: '', to: '' }])
    expect(describeChange(row({ table_name: 'brand_new', operation: 'delete' }), names)).toEqual({
      kind: 'brand_new',
      which: '',
      changes: [{ what: 'taken away', from: '', to: '' }],
    })
  })
})
