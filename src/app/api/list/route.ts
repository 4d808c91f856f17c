import { z } from 'zod'
import { staffRoles } from '@/core/people/roles'
import { limits } from '@/core/limits'
import { xlsxOf } from '@/formats/xlsx/write-list'
import { hasRole } from '@/server/platform/actor'
import { invalid, notFound, unavailable, type Failure } from '@/server/platform/failure'
import { asActor, failed, readBody, readJson, sameOrigin } from '@/server/platform/http'
import { Busy, turns } from '@/server/platform/turns'

const value = z.union([z.string().max(limits.comment), z.number(), z.null()])
const head = z.object({
  name: z.string().trim().min(1).max(limits.name),
  header: z.array(z.string().max(limits.name)).min(1).max(limits.listColumns),
})
const row = z.array(value).max(limits.listColumns)

/** One list at a time is made a workbook in a process; it takes a second for thousands of rows. */
const making = turns('a list to be made a workbook', { atOnce: 1, mostWaiting: 8 })

const words = 'This list is too large for a workbook. Narrow it, or download it as CSV.'
const tooLarge: Failure = { kind: 'invalid', message: words, fields: [{ path: 'rows', message: words }] }

/**
 * Makes a workbook of a list that the page shows, as it is narrowed and sorted there. Reads nothing of the school. The
 * body has a line of JSON for name and header, and one for each row, so that nothing is read in one long breath.
 */
export async function POST(request: Request) {
  if (!sameOrigin(request)) return failed(notFound)
  return asActor(request, async (actor) => {
    if (!hasRole(actor, ...staffRoles)) return failed(notFound)
    try {
      return await making.take(async () => {
        const body = await readBody(request, limits.list)
        if (!body) return failed(tooLarge)
        const lines = body.toString('utf8').split('\n')
        const read = head.safeParse(readJson(lines[0] ?? ''))
        if (!read.success) return failed(invalid(read.error))
        const { name, header } = read.data
        const count = lines.length - 1
        if (count * header.length > limits.listCells) return failed(tooLarge)
        const rows = function* () {
          for (let n = 1; n <= count; n++) yield row.parse(readJson(lines[n] ?? ''))
        }
        return new Response(await xlsxOf(name, header, rows()), {
          headers: {
            'Content-Type': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
            'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.xlsx`)}`,
            'X-Content-Type-Options': 'nosniff',
            'Cache-Control': 'private, no-store',
          },
        })
      })
    } catch (error) {
      if (error instanceof Busy) return failed(unavailable)
      if (error instanceof z.ZodError) return failed(invalid(error))
      throw error
    }
  })
}
