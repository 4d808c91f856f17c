import { inThread } from '@/formats/in-thread'

export type Converted =
  | { readonly ok: true; readonly bytes: Buffer; readonly leftOut: readonly string[] }
  /** Reads on after the file's name. */
  | { readonly ok: false; readonly problem: string }

type Answer =
  | { readonly bytes: Uint8Array; readonly leftOut: readonly string[] }
  | { readonly problem: string | undefined }

const tooMuch = 'cannot be made into pages here. Save it as PDF and choose that.'

/** A word-processor file as a PDF, made in a thread of its own. */
export async function docxAsPdf(bytes: Uint8Array): Promise<Converted> {
  const answer = await inThread<Answer>('src/formats/docx/thread.mjs', bytes, { time: 90_000, memory: 1024 })
  if (answer && 'bytes' in answer)
    return { ok: true, bytes: Buffer.from(answer.bytes), leftOut: answer.leftOut }
  return { ok: false, problem: answer?.problem ?? tooMuch }
}
