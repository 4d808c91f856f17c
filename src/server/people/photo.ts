import { z } from 'zod'
import { id } from '@/core/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { conflict, notFound, Refusal } from '@/server/platform/failure'
import { storeFile } from '@/server/platform/files'
import { changeRecords } from './rights'
import { studentTopic } from './topics'

const undo = {
  // The photo before is kept so long.
  days: 2,
  whenChangedSince: 'stop',
  topics: ({ studentId }: { studentId: string }) => [studentTopic(studentId)],
} as const

interface Asked {
  readonly studentId: string
  readonly expectedPhotoId?: string | null
}

async function replace(context: Context, { studentId, expectedPhotoId }: Asked, photoId: string | null) {
  const { db } = context
  const there = await db
    .selectFrom('student')
    .select('photoId')
    .where('id', '=', studentId)
    .forUpdate()
    .executeTakeFirst()
  if (!there) throw new Refusal(notFound)
  if (there.photoId !== (expectedPhotoId ?? null))
    throw conflict('Someone else changed this photo in the meantime. Nothing was saved; look again.', [])
  await db.updateTable('student').set({ photoId }).where('id', '=', studentId).execute()
  context.changed(studentTopic(studentId))
}

/** Keeps a photo that was cut and made smaller before. */
export const setPhoto = defineCommand({
  input: z.object({
    studentId: id,
    /** The photo that was in sight. */
    expectedPhotoId: id.nullish(),
    bytes: z.instanceof(Buffer),
  }),
  right: changeRecords,
  needsNoVersion: 'compares the photo',
  undo,
  run: async (context, asked) => {
    const photoId = await storeFile(context, {
      purpose: 'photo',
      name: 'photo.jpg',
      mediaType: 'image/jpeg',
      bytes: asked.bytes,
      pageCount: null,
    })
    await replace(context, asked, photoId)
    return { photoId }
  },
})

/** Takes the photo off a record. */
export const removePhoto = defineCommand({
  input: z.object({ studentId: id, expectedPhotoId: id.nullish() }),
  right: changeRecords,
  needsNoVersion: 'compares the photo',
  undo,
  run: async (context, asked) => {
    await replace(context, asked, null)
    return null
  },
})
