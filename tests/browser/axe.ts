import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'

const axeSource = readFileSync(join(process.cwd(), 'node_modules/axe-core/axe.min.js'), 'utf8')

/**
 * What axe finds on the page as it stands, each with where. With a dialog open it looks at that alone: the page behind
 * has its own line among the views.
 */
export async function axe(page: Page): Promise<readonly string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource)
  return page.evaluate(async () => {
    const { axe: runner } = window as unknown as {
      axe: {
        run: (
          context: Element | Document,
          options: object,
        ) => Promise<{
          violations: { id: string; help: string; nodes: { html: string; failureSummary?: string }[] }[]
        }>
      }
    }
    // What stays in sight half covers what scrolls behind it; axe would take that for a target too small to hit.
    const staying = [
      ...document.querySelectorAll<HTMLElement>('[data-part], main aside, main footer'),
    ].filter((e) => getComputedStyle(e).position === 'sticky')
    for (const e of staying) e.style.position = 'static'
    const { violations } = await runner.run(document.querySelector('[role=dialog]') ?? document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
      // What passes is not described, which takes longer than to find it.
      resultTypes: ['violations'],
    })
    for (const e of staying) e.style.position = ''
    return violations.map(
      (v) =>
        `${location.pathname} at ${innerWidth}: ${v.id}, ${v.help}: ${v.nodes
          .slice(0, 2)
          .map((n) => n.html.slice(0, 160))
          .join(' | ')}`,
    )
  })
}
