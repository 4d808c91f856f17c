import { likeness, nearDates } from './likeness'

const ilse = {
  legalGivenName: 'Ilse',
  legalFamilyName: 'Okonjo-Marsh',
  preferredName: null,
  birthDate: '2014-03-05',
}

test.each([
  ['the same', { givenName: 'ilse', familyName: 'OKONJO-MARSH', birthDate: '2014-03-05' }, 'same'],
  ['marks aside', { givenName: 'Ílse', familyName: 'Okonjo-Marsh', birthDate: '2014-03-05' }, 'same'],
  ['half of a double name', { givenName: 'Ilse', familyName: 'Marsh', birthDate: '2014-03-05' }, 'similar'],
  [
    'two letters exchanged',
    { givenName: 'Isle', familyName: 'Okonjo-Marsh', birthDate: '2014-03-05' },
    'similar',
  ],
  [
    'names turned round',
    { givenName: 'Okonjo-Marsh', familyName: 'Ilse', birthDate: '2014-03-05' },
    'similar',
  ],
  [
    'another birth date',
    { givenName: 'Ilse', familyName: 'Okonjo-Marsh', birthDate: '2013-11-20' },
    'similar',
  ],
  ['a twin', { givenName: 'Tove', familyName: 'Okonjo-Marsh', birthDate: '2014-03-05' }, undefined],
  ['somebody born that day', { givenName: 'Arne', familyName: 'Lund', birthDate: '2014-03-05' }, undefined],
  ['a slip and another date', { givenName: 'Isle', familyName: 'Marsh', birthDate: '2014-03-06' }, undefined],
] as const)('%s: %#', (_what, typed, expected) => expect(likeness(typed, ilse)).toBe(expected))

test('the preferred name counts as a given name', () => {
  const record = { ...ilse, preferredName: 'Ila' }
  expect(likeness({ givenName: 'Ila', familyName: 'Okonjo-Marsh', birthDate: '2014-03-05' }, record)).toBe(
    'same',
  )
})

test('dates that may have been meant are dates', () => {
  expect(nearDates('2014-03-05')).toEqual([
    '2014-03-05',
    '2014-05-03',
    '2013-03-05',
    '2015-03-05',
    '2014-03-04',
    '2014-03-06',
  ])
  expect(nearDates('2016-02-29')).toEqual(['2016-02-29', '2016-02-28', '2016-03-01'])
})
