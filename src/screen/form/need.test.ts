import { enrolInput } from '@/core/people/inputs'
import { needOf } from './need'

test.each([
  ['givenName', 'required'],
  ['preferredName', 'optional'],
  ['guardian.relation', 'required'],
  ['guardian.phone', 'optional'],
  ['guardians.2.relation', 'required'],
  ['guardians.2.phone', 'optional'],
  ['nothingOfTheKind', undefined],
])('whether %s may stay empty is read from the schema, within objects and lists', (path, need) => {
  expect(needOf(enrolInput, path)).toBe(need)
})
