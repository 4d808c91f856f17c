import type { Actor } from '@/server/platform/actor'
import type { Result } from '@/server/platform/failure'
import { log } from '@/server/platform/log'
import { executeQuery, executeCommand } from '@/server/platform/run'
import { files } from './files'
import { work } from './work'

const partSize = 2 << 20

/** A stored file as a stream that asks for one part at a time, each with its rights. */
export async function openFile(
  actor: Actor,
  documentId: string,
): Promise<Result<{ name: string; mediaType: string; size: number; stream: ReadableStream<Uint8Array> }>> {
  const described = await executeQuery(files.queries.describe, actor, { documentId })
  if (!described.ok) return described
  const { name, mediaType, size } = described.value
  let from = 0
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const part = await executeQuery(files.queries.readPart, actor, { documentId, from, most: partSize })
      if (!part.ok) return controller.error(new Error(part.failure.message))
      controller.enqueue(new Uint8Array(part.value))
      from += part.value.length
      if (from < size && part.value.length > 0) return
      // Noted before the end is told: whoever has the whole file finds its line gone.
      const noted = await executeCommand(work.commands.noteFetched, actor, { documentId })
      // The reader has the file all the same; only its line in the head stays.
      if (!noted.ok) log().warn({ documentId, failure: noted.failure }, 'fetching a result was not noted')
      controller.close()
    },
  })
  return { ok: true, value: { name, mediaType, size, stream } }
}
