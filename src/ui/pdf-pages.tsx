'use client'
import { useEffect, useRef, useState, type ReactNode } from 'react'
import type { PDFDocumentProxy } from 'pdfjs-dist'
import { openPdf } from './open-pdf'

/** Draws one page at a time of a PDF, as wide as there is room. */
export function PdfPages({
  address,
  name,
  page,
  onPage,
  over,
}: {
  address: string
  name: string
  page: number
  onPage: (page: number) => void
  /** What lies over the page that is shown. */
  over?: (page: number) => ReactNode
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [pdf, setPdf] = useState<PDFDocumentProxy>()
  const [state, setState] = useState<'loading' | 'shown' | 'failed'>('loading')
  const [words, setWords] = useState('')
  useEffect(() => {
    let gone = false
    setState('loading')
    setPdf(undefined)
    const opening = openPdf(address)
    opening
      .then((task) => task.promise)
      .then((opened) => !gone && setPdf(opened))
      .catch(() => !gone && setState('failed'))
    return () => {
      gone = true
      // The document and its worker take memory until they are destroyed.
      opening.then((task) => task.destroy()).catch(() => setState('failed'))
    }
  }, [address])
  const shown = pdf ? Math.min(Math.max(1, page), pdf.numPages) : 1
  useEffect(() => {
    const target = canvas.current
    if (!pdf || !target) return
    let task: { cancel: () => void } | undefined
    let gone = false
    async function draw(document: PDFDocumentProxy, to: HTMLCanvasElement) {
      const drawn = await document.getPage(shown)
      if (gone) return
      const width = to.parentElement?.clientWidth ?? 500
      const viewport = drawn.getViewport({
        scale: (width / drawn.getViewport({ scale: 1 }).width) * Math.max(1, window.devicePixelRatio),
      })
      to.width = viewport.width
      to.height = viewport.height
      const rendering = drawn.render({ canvas: to, viewport })
      task = rendering
      await rendering.promise
      if (gone) return
      setState('shown')
      const text = await drawn.getTextContent()
      if (gone) return
      setWords(text.items.map((item) => ('str' in item ? item.str : '')).join(' '))
    }
    draw(pdf, target).catch((error: Error) => {
      if (!gone && error.name !== 'RenderingCancelledException') setState('failed')
    })
    return () => {
      gone = true
      task?.cancel()
    }
  }, [pdf, shown])
  const step =
    'min-h-7 rounded-[3px] border border-line bg-panel px-2 disabled:opacity-45 pointer-coarse:min-h-11'
  return (
    <figure>
      <figcaption className="mb-2 flex items-center gap-2 text-[13px]">
        <a className="link truncate" href={address} target="_blank" rel="noreferrer">
          {name}
          <span className="sr-only">, in a new page</span>
        </a>
        <span className="ml-auto whitespace-nowrap">
          <button
            type="button"
            className={step}
            disabled={shown <= 1}
            onClick={() => onPage(shown - 1)}
            aria-label="Previous page"
          >
            ‹
          </button>
          <span className="px-2">
            Page {shown}
            {pdf && ` of ${pdf.numPages}`}
          </span>
          <button
            type="button"
            className={step}
            disabled={!pdf || shown >= pdf.numPages}
            onClick={() => onPage(shown + 1)}
            aria-label="Next page"
          >
            ›
          </button>
        </span>
      </figcaption>
      {state === 'failed' && (
        <p className="hint">
          This document cannot be shown.{' '}
          <a className="link" href={address}>
            Open it in a new page
          </a>
          .
        </p>
      )}
      {state === 'loading' && (
        <p role="status" className="text-muted">
          Opening the document
        </p>
      )}
      <div className="relative">
        <canvas
          ref={canvas}
          role="img"
          aria-label={`${name}, page ${shown}: ${words}`}
          data-state={state}
          className={`w-full border border-rule bg-panel ${state === 'failed' ? 'hidden' : ''}`}
        />
        {state === 'shown' && over?.(shown)}
      </div>
    </figure>
  )
}
