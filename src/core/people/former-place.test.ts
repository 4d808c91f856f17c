import { formerPlace } from './former-place'

const offer = {
  year: { firstDay: '2026-09-01' },
  yearGroups: [6, 7, 8].map((n) => ({ id: `y${n}`, name: `Year ${n}` })),
  homerooms: [
    { id: '7t', name: '7 Tern', yearGroupId: 'y7' },
    { id: '7p', name: '7 Plover', yearGroupId: 'y7' },
    { id: '8t', name: '8 Tern', yearGroupId: 'y8' },
  ],
}
const stays = (group: number, room: string, until: string | null) => [
  { kind: 'year group', id: `y${group}`, name: `Year ${group}`, until },
  { kind: 'homeroom', id: room, name: `${group} Tern`, until },
]

test.each([
  ['in the same year', stays(7, '7t', '2026-10-10'), { yearGroupId: 'y7', homeroomId: '7t' }],
  ['in the year before', stays(7, 'old', '2026-03-10'), { yearGroupId: 'y8', homeroomId: '8t' }],
  ['two years before', stays(6, 'old', '2025-07-18'), { yearGroupId: 'y8', homeroomId: '8t' }],
])('who left %s comes back where the year has gone on to', (_when, before, place) =>
  expect(formerPlace(before, offer)).toMatchObject(place),
)

test('nothing is proposed for who never left, or has outgrown the school', () => {
  expect(formerPlace(stays(7, '7t', null), offer)).toBeUndefined()
  expect(formerPlace(stays(8, 'old', '2025-07-18'), offer)).toBeUndefined()
})
