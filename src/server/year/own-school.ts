import { schoolInput } from '@/core/school-input'
import { defineCommand } from '@/server/platform/define'
import { updateIfUnchanged } from '@/server/platform/write'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { changeSettings } from './rights'

/** Changes the school's name, address and time zone: what is printed and sent from now on, and which day it is. */
export const saveSchool = defineCommand({
  input: schoolInput,
  right: changeSettings,
  run: async (context, { expectedVersion, ...own }) => {
    const { actor } = context
    await updateIfUnchanged(context, 'school', { id: actor.schoolId }, expectedVersion, own, {
      what: 'the school',
    })
    context.changed(yearTopic(), rollTopic())
    return null
  },
})
