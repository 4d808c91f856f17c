'use client'
import { useState, type ReactNode } from 'react'
import { isAlive, workWords } from '@/core/work'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { PdfPages } from '@/ui/pdf-pages'
import { Progress } from '@/ui/progress'
import { testFileTypes, uploadTest, wordsOfUpload } from '@/screen/upload-test'
import { useWork } from '@/screen/work'
import type { Key } from './use-key'

/** The test beside its key: its pages, the files it was made from, and the way to replace it. */
export function TestDocument({
  server,
  page,
  onPage,
  onAttach,
  over,
  children,
}: {
  server: Key
  page: number
  onPage: (page: number) => void
  onAttach: (documentIds: readonly string[], words: string) => void
  over: (page: number) => ReactNode
  /** Below the pages. */
  children: ReactNode
}) {
  const making = server.sources.some((s) => s.jobId !== null)
  return (
    <>
      {making && <Making server={server} />}
      {server.documentId ? (
        <PdfPages
          address={`/api/documents/${server.documentId}`}
          name={server.document ?? 'The test'}
          page={page}
          onPage={onPage}
          over={over}
        />
      ) : (
        !making && <p className="text-muted">No document has been added. The answer key works without one.</p>
      )}
      {server.documentId && children}
      {server.sources.length > 0 && !making && (
        <p className="mt-2 flex flex-wrap gap-x-3 text-[13px]">
          <span className="text-muted">Made from</span>
          {server.sources.map((s) => (
            <a key={s.id} className="link" href={`/api/documents/${s.id}`} download={s.name}>
              {s.name}
            </a>
          ))}
        </p>
      )}
      {server.mayEdit && <Choose server={server} onAttach={onAttach} />}
    </>
  )
}

/** A document that is being made from pictures or a text, or could not be. */
function Making({ server }: { server: Key }) {
  const { all } = useWork()
  const [jobId] = server.sources.flatMap((s) => s.jobId ?? [])
  const work = all.find((w) => w.id === jobId)
  const words = wordsOfUpload(server.sources.map(({ name }) => ({ name, pageCount: null })))
  // What a colleague asked for is not among one's own work.
  const isMade = !work || isAlive(work) || work.state === 'done'
  if (!isMade)
    return (
      <div className="mb-3">
        <Problem>
          The document could not be made. {work.message ?? 'It was cancelled.'} Choose the file again, or
          another.
        </Problem>
      </div>
    )
  return (
    <div role="status" className="mb-3 grid gap-1">
      <span>The document is being made from {words}. You can go on with the key meanwhile.</span>
      <span className="flex items-center gap-2 text-[13px] text-muted">
        <Progress label="Document" total={work?.total || 1} {...(work?.total ? { done: work.done } : {})} />
        {work && isAlive(work) && workWords(work)}
      </span>
    </div>
  )
}

/** Uploads another document; once there are answers, asks first. */
function Choose({
  server,
  onAttach,
}: {
  server: Key
  onAttach: (documentIds: readonly string[], words: string) => void
}) {
  const [problem, setProblem] = useState<string>()
  const [sending, setSending] = useState<string>()
  const [waiting, setWaiting] = useState<readonly File[]>()
  async function send(files: readonly File[]) {
    setWaiting(undefined)
    setProblem(undefined)
    setSending('Uploading')
    const sent = await uploadTest(files, (done, all) =>
      setSending(all === 1 ? 'Uploading' : `Uploading ${done + 1} of ${all}`),
    )
    setSending(undefined)
    if (!sent.ok) return setProblem(sent.problem)
    onAttach(
      sent.files.map((f) => f.documentId),
      wordsOfUpload(sent.files),
    )
  }
  const asks = server.documentId !== null && server.sheets > 0
  return (
    <div className="mt-3">
      <label className="block text-[13px]">
        {server.documentId ? 'Replace the document' : 'Add the test: a PDF, a DOCX file, or pictures'}
        <input
          type="file"
          multiple
          accept={testFileTypes}
          className="mt-1 block w-full file:mr-3 file:rounded-[3px] file:border file:border-line file:bg-panel file:px-3 file:py-1"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])]
            e.target.value = ''
            if (files.length === 0) return
            if (asks) setWaiting(files)
            else void send(files)
          }}
        />
      </label>
      {sending && (
        <p role="status" className="text-[13px] text-muted">
          {sending}
        </p>
      )}
      {problem && <Problem>{problem}</Problem>}
      {waiting && (
        <div className="hint mt-2 grid gap-2" role="alertdialog" aria-label="Replace the document?">
          <span>
            {server.sheets === 1 ? '1 student has' : `${server.sheets} students have`} answered with the
            present document. The key and the answers stay as they are.
          </span>
          <span className="flex gap-3">
            <Button kind="plain" onClick={() => void send(waiting)}>
              Replace it
            </Button>
            <Button kind="plain" onClick={() => setWaiting(undefined)}>
              Keep the present one
            </Button>
          </span>
        </div>
      )}
    </div>
  )
}
