import { limits } from '@/core/limits'
import { uploadFile, type UploadedFile } from './server'

/** What the file fields of tests offer to choose. */
export const testFileTypes = '.pdf,.png,.jpg,.jpeg,.docx,application/pdf,image/png,image/jpeg'

const megabytes = (bytes: number) => bytes / (1024 * 1024)
const names = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

export type UploadedFiles =
  | { readonly ok: true; readonly files: readonly UploadedFile[] }
  | { readonly ok: false; readonly problem: string }

/**
 * Uploads the files a test is made from, in the order of their names, as scans and photos are numbered. None counts
 * when one of them cannot be used.
 * @param onProgress is told how many of them have been sent
 */
export async function uploadTest(
  chosen: readonly File[],
  onProgress: (done: number, of: number) => void,
): Promise<UploadedFiles> {
  const sorted = [...chosen].sort((a, b) => names.compare(a.name, b.name))
  if (sorted.length > limits.filesOfDocument)
    return {
      ok: false,
      problem: `These are ${sorted.length} files; a test can have at most ${limits.filesOfDocument}.`,
    }
  const large = sorted.find((file) => file.size > limits.upload)
  if (large)
    return {
      ok: false,
      problem: `${large.name} has ${megabytes(large.size).toFixed(1)} MB; the limit is ${megabytes(limits.upload)} MB. Save it with smaller pictures, or in parts.`,
    }
  const files: UploadedFile[] = []
  for (const file of sorted) {
    onProgress(files.length, sorted.length)
    // One after the other: each is read whole at the other end.
    const sent = await uploadFile(file)
    if (!sent.ok) return { ok: false, problem: sent.failure.message }
    files.push(sent.value)
  }
  return { ok: true, files }
}

/** "Tides.pdf, 3 pages", "5 pictures": what was uploaded. */
export const wordsOfUpload = (files: readonly Pick<UploadedFile, 'name' | 'pageCount'>[]): string => {
  const [first, second] = files
  if (!first) return ''
  if (second) return `${files.length} pictures: ${files.map((f) => f.name).join(', ')}`
  return first.pageCount === null
    ? first.name
    : `${first.name}, ${first.pageCount} ${first.pageCount === 1 ? 'page' : 'pages'}`
}
