import { sql } from 'kysely'
import { z } from 'zod'
import { percent, usualThreshold } from '@/core/attendance/inputs'
import { expectedVersion } from '@/core/inputs'
import { teachersSee, type TeachersSee } from '@/core/people/visibility'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { conflict } from '@/server/platform/failure'
import { rollTopic, yearTopic } from '@/server/school/topics'
import { changeSettings, seeSettings } from './rights'

/** What the school has decided for everyone. */
export const settings = defineQuery({
  input: z.object({}),
  right: seeSettings,
  topics: () => [yearTopic()],
  run: async (context) => {
    const [saved, school, mayChange] = await Promise.all([
      context.db
        .selectFrom('schoolSetting')
        .select(['teachersSee', 'attendanceThreshold', 'version'])
        .executeTakeFirst(),
      context.db
        .selectFrom('school')
        .select(['name', 'address', 'timeZone', 'version'])
        .executeTakeFirstOrThrow(),
      context.may(changeSettings, {}),
    ])
    return {
      teachersSee: (saved?.teachersSee ?? 'places') as TeachersSee,
      attendanceThreshold: saved?.attendanceThreshold ?? usualThreshold,
      version: saved?.version ?? 0,
      school,
      mayChange,
    }
  },
})

/** Decides what teachers see of students they do not teach, and below which attendance students are looked after. */
export const saveSettings = defineCommand({
  input: z.object({ teachersSee: z.enum(teachersSee), attendanceThreshold: percent, expectedVersion }),
  right: changeSettings,
  undo: { days: 30, whenChangedSince: 'stop', topics: () => [yearTopic(), rollTopic()] },
  run: async (context, { teachersSee: level, attendanceThreshold, expectedVersion: version }) => {
    const { db, actor } = context
    const { rows } = await sql<{ version: number }>`
      insert into school_setting (school_id, teachers_see, attendance_threshold)
      select ${actor.schoolId}, ${level}, ${attendanceThreshold} where ${version} = 0
      on conflict (school_id) do nothing returning version`.execute(db)
    const saved =
      rows[0] ??
      (await db
        .updateTable('schoolSetting')
        .set({ teachersSee: level, attendanceThreshold })
        .where('version', '=', version)
        .returning('version')
        .executeTakeFirst())
    if (!saved)
      throw conflict('Someone else changed the settings in the meantime. Nothing was saved; look again.', [])
    context.changed(yearTopic(), rollTopic())
    return { version: saved.version }
  },
})
