import { z } from 'zod'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import { makePhoto } from '@/formats/image/photo'
import { openFile } from '@/server/front/open-file'
import { hasRole } from '@/server/platform/actor'
import { notFound, unavailable, type Failure } from '@/server/platform/failure'
import { answered, asActor, failed, readBody, sameOrigin } from '@/server/platform/http'
import { executeCommand } from '@/server/platform/run'
import { inspecting } from '@/server/platform/inspecting'
import { commands } from '@/server/registry'

const problem = (message: string): Failure => ({
  kind: 'invalid',
  message,
  fields: [{ path: 'file', message }],
})

const percent = z.coerce.number().min(0).max(limits.wholePercent)
const asked = z.object({
  studentId: id,
  expectedPhotoId: id.optional(),
  name: z.string().max(limits.fileName).default('The picture'),
  key: z.string().max(limits.key).optional(),
  x: percent,
  y: percent,
  width: percent,
  height: percent,
})

/** Takes in a photo of a student, sent as the body; which part to keep travels in the address. */
export async function POST(request: Request) {
  const setPhoto = commands.get('people.setPhoto')
  const read = asked.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!setPhoto || !sameOrigin(request) || !read.success) return failed(notFound)
  const { studentId, expectedPhotoId, name, key, ...crop } = read.data
  return asActor(request, async (actor) => {
    if (!hasRole(actor, ...setPhoto.right.grants.flatMap((grant) => grant.roles))) return failed(notFound)
    const bytes = await readBody(request, limits.upload)
    if (!bytes) return failed(problem(`${name} is too large; the limit is 25 MB. Make it smaller first.`))
    const made = await inspecting(() => makePhoto(bytes, crop))
    if (!made) return failed(unavailable)
    if (!made.ok) return failed(problem(`${name} ${made.problem}`))
    return answered(
      await executeCommand(setPhoto, actor, { studentId, expectedPhotoId, bytes: made.bytes }, { key }),
    )
  })
}

/** A photo, for those who may see the student's details. */
export async function GET(request: Request) {
  const photoId = new URL(request.url).searchParams.get('id') ?? ''
  return asActor(request, async (actor) => {
    const file = await openFile(actor, photoId)
    if (!file.ok) return answered(file)
    if (file.value.mediaType !== 'image/jpeg') return failed(notFound)
    return new Response(file.value.stream, {
      headers: {
        'Content-Type': 'image/jpeg',
        'Content-Length': String(file.value.size),
        'X-Content-Type-Options': 'nosniff',
        'Content-Security-Policy': "default-src 'none'",
        // Who may see it can change at any time, and others may use this computer.
        'Cache-Control': 'private, no-store',
      },
    })
  })
}
