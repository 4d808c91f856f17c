import { z } from 'zod'
import { id } from '@/core/inputs'
import { studentFields } from '@/core/people/inputs'
import { sortName } from '@/core/people/names'
import { defineFields } from '@/server/platform/fields'
import { rollTopic } from '@/server/school/topics'
import { changeRecords, changeSupport } from './rights'
import { studentTopic } from './topics'
import { refuseField } from './messages'

/** Keeps the fields of a student's record as they are typed. The name for lists follows the names until it is set by hand. */
export const setStudent = defineFields<{ studentId: string }>({
  table: 'student',
  what: 'this field',
  scope: z.object({ studentId: id }),
  idOf: ({ studentId }) => studentId,
  fields: studentFields,
  right: changeRecords,
  narrower: { supportNote: changeSupport, medicalNote: changeSupport },
  check: ({ today }, before, changes) => {
    const birthDate = changes.birthDate as string | undefined
    if (birthDate !== undefined && birthDate > today)
      throw refuseField('value', 'bornInFuture', { date: birthDate })
    const usual = (row: Readonly<Record<string, unknown>>) =>
      sortName(String(row.preferredName ?? row.legalGivenName), String(row.legalFamilyName))
    if ('sortName' in changes || before.sortName !== usual(before)) return {}
    return { sortName: usual({ ...before, ...changes }) }
  },
  topics: ({ studentId }) => [studentTopic(studentId), rollTopic()],
})
