import { inThread } from '@/formats/in-thread'

export type InspectedPdf =
  | { readonly ok: true; readonly pageCount: number }
  /** Reads on after the file's name: "is not a PDF …". */
  | { readonly ok: false; readonly problem: string }

/** What reading a PDF may take: milliseconds, and MiB of memory beside the file itself. */
const most = { time: 8000, memory: 512 } as const

const damaged = 'is damaged and cannot be opened. Save it as PDF again and choose the new file.'

type Answer = { readonly pageCount: number } | { readonly problem: string }

/** Says whether bytes are a PDF that can be shown, and how many pages it has. */
export async function inspectPdf(bytes: Uint8Array): Promise<InspectedPdf> {
  if (bytes.length === 0) return { ok: false, problem: 'is empty. Choose another file.' }
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 1024))
  if (!head.includes('%PDF-'))
    return {
      ok: false,
      problem: 'is not a PDF file. Open it in the program that made it and save it as PDF.',
    }
  const answer = await inThread<Answer>('src/formats/pdf/inspect-worker.mjs', bytes, most)
  if (answer && 'pageCount' in answer) return { ok: true, pageCount: answer.pageCount }
  if (answer?.problem === 'PasswordException')
    return {
      ok: false,
      problem: 'is locked with a password. Save a copy without the password and choose that.',
    }
  return { ok: false, problem: damaged }
}
