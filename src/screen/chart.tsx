'use client'
import { getNonce } from 'get-nonce'
import type { Data, Layout } from 'plotly.js-basic-dist-min'
import { useEffect, useRef, useState } from 'react'
import { Problem } from '@/ui/field'

/**
 * The style elements that the package adds when it loads. They are made here, with the nonce that the page's policy
 * asks for; the package then takes those it finds. The second holds the look of maps, of which there are none.
 */
const styleIds = [
  'plotly.js-style-global',
  'ce8d464691048653ffe3a57c6c18ab566e8366f186677868cf724621a857b4fe',
]

async function loadPlotly() {
  for (const id of styleIds)
    if (!document.getElementById(id)) {
      const style = Object.assign(document.createElement('style'), { id, nonce: getNonce() ?? '' })
      style.appendChild(document.createTextNode(''))
      document.head.appendChild(style)
    }
  return (await import('plotly.js-basic-dist-min')).default
}

const token = (name: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(`--color-${name}`).trim()

/** Colours of the page for charts, by their names in the style sheet. */
export interface Tones {
  readonly ink: string
  readonly muted: string
  readonly rule: string
  readonly past: string
  readonly shoal: string
  readonly magenta: string
  readonly ochre: string
}

const tones = (): Tones => ({
  ink: token('ink'),
  muted: token('muted'),
  rule: token('rule'),
  past: token('past'),
  shoal: token('shoal'),
  magenta: token('magenta'),
  ochre: token('ochre'),
})

/** What a chart draws. */
export interface Drawing {
  readonly data: Data[]
  readonly layout: Partial<Layout>
}

/**
 * A chart, drawn once it comes into view, and again when its width or what it shows changes. It says nothing that its
 * table does not say: for those who do not see it, it is one picture with a name.
 * @param draw the traces and axes in the page's colours; the same function as long as they are the same
 */
export function Chart({
  label,
  height = 220,
  draw,
}: {
  label: string
  height?: number
  draw: (tones: Tones) => Drawing
}) {
  const place = useRef<HTMLDivElement>(null)
  const [failed, setFailed] = useState(false)
  useEffect(() => {
    const at = place.current
    if (!at) return
    let gone = false
    let width = 0
    async function show() {
      if (!at || gone) return
      const plotly = await loadPlotly()
      // The page may have been left while the package was loading.
      if (gone as boolean) return
      width = at.clientWidth
      const t = tones()
      const { data, layout } = draw(t)
      const axis = {
        gridcolor: t.rule,
        linecolor: t.ink,
        tickcolor: t.ink,
        zeroline: false,
        fixedrange: true,
      }
      await plotly.react(
        at,
        data,
        {
          paper_bgcolor: 'transparent',
          plot_bgcolor: 'transparent',
          font: { family: getComputedStyle(document.body).fontFamily, size: 13, color: t.ink },
          margin: { l: 44, r: 16, t: 8, b: 36 },
          showlegend: false,
          ...layout,
          width,
          height,
          xaxis: { ...axis, ...layout.xaxis },
          yaxis: { ...axis, ...layout.yaxis },
        },
        { staticPlot: true, responsive: false },
      )
    }
    const draws = () =>
      void show().catch(() => {
        if (!gone) setFailed(true)
      })
    let seen = false
    const inView = new IntersectionObserver((entries) => {
      if (!entries.some((e) => e.isIntersecting) || seen) return
      seen = true
      draws()
    })
    const resized = new ResizeObserver(() => {
      if (seen && at.clientWidth !== width) draws()
    })
    inView.observe(at)
    resized.observe(at)
    return () => {
      gone = true
      inView.disconnect()
      resized.disconnect()
    }
  }, [draw, height])
  return (
    <>
      <div ref={place} role="img" aria-label={label} style={{ minHeight: height }} />
      {failed && <Problem>The chart could not be loaded. The table below holds its numbers.</Problem>}
    </>
  )
}
