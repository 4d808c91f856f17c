export type InspectedPdf =
  | { readonly ok: true; readonly pageCount: number }
  /** Reads on after the file's name: "is not a PDF …". */
  | { readonly ok: false; readonly problem: string }

/** Says whether bytes are a PDF that can be shown, and how many pages it has. */
export async function inspectPdf(bytes: Uint8Array): Promise<InspectedPdf> {
  if (bytes.length === 0) return { ok: false, problem: 'is empty. Choose another file.' }
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 1024))
  if (!head.includes('%PDF-'))
    return {
      ok: false,
      problem:
        'is not a PDF, whatever its name says. Open it in the program that made it and save it as PDF.',
    }
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs')
  const task = getDocument({ data: Uint8Array.from(bytes), isEvalSupported: false, verbosity: 0 })
  try {
    const pdf = await task.promise
    return { ok: true, pageCount: pdf.numPages }
  } catch (error) {
    if (error instanceof Error && error.name === 'PasswordException')
      return {
        ok: false,
        problem: 'is locked with a password. Save a copy without the password and choose that.',
      }
    return {
      ok: false,
      problem: 'is damaged and cannot be opened. Save it as PDF again and choose the new file.',
    }
  } finally {
    await task.destroy()
  }
}
