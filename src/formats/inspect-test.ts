import { limits } from '@/core/limits'
import { checkParts, Unreadable } from './docx/unpack'
import { measurePicture } from './image/picture'
import { kindOfFile, testTypes, type TestType } from './kind-of-file'
import { inspectPdf } from './pdf/inspect'

export type InspectedTest =
  | { readonly ok: true; readonly mediaType: TestType; readonly pageCount: number | null }
  /** Reads on after the file's name: "is not a PDF …". */
  | { readonly ok: false; readonly problem: string }

const wrong = (problem: string): InspectedTest => ({ ok: false, problem })

const others = {
  'older text': 'is in an older format of word processors. Save it as DOCX or PDF and choose that.',
  'phone picture': 'is a picture in a format that only some devices read. Save or send it as JPEG.',
} as const

/** Says whether bytes are a file that a test can be made from: a PDF, a picture, a word-processor file. */
export async function inspectTest(bytes: Buffer): Promise<InspectedTest> {
  if (bytes.length === 0) return wrong('is empty. Choose another file.')
  const kind = kindOfFile(bytes)
  if (kind === undefined)
    return wrong('is not a PDF, a picture (PNG or JPEG) or a word-processor file (DOCX).')
  if (kind === 'older text' || kind === 'phone picture') return wrong(others[kind])
  const mediaType = testTypes[kind]
  if (kind === 'pdf') {
    const read = await inspectPdf(bytes)
    if (!read.ok) return read
    if (read.pageCount > limits.pagesOfTest)
      return wrong(
        `has ${read.pageCount} pages; the limit is ${limits.pagesOfTest}. Save only the pages of the test as PDF.`,
      )
    return { ok: true, mediaType, pageCount: read.pageCount }
  }
  if (kind === 'docx') {
    try {
      checkParts(bytes)
      return { ok: true, mediaType, pageCount: null }
    } catch (error) {
      if (error instanceof Unreadable) return wrong(error.message)
      throw error
    }
  }
  const measured = await measurePicture(bytes)
  return measured.ok ? { ok: true, mediaType, pageCount: null } : measured
}
