import { z } from 'zod'
import { limits } from '@/core/limits'
import { xlsxOf } from '@/formats/xlsx/write-list'
import { invalid, notFound } from '@/server/platform/failure'
import { asActor, failed, readJsonBody, sameOrigin } from '@/server/platform/http'

const value = z.union([z.string().max(limits.comment), z.number(), z.null()])
const body = z.object({
  name: z.string().trim().min(1).max(limits.name),
  header: z.array(z.string().max(limits.name)).min(1).max(200),
  rows: z.array(z.array(value).max(200)).max(100_000),
})

/** Makes a workbook of a list that the page shows, as it is narrowed and sorted there. Reads nothing of the school. */
export async function POST(request: Request) {
  if (!sameOrigin(request)) return failed(notFound)
  return asActor(request, async () => {
    const read = body.safeParse(await readJsonBody(request, limits.list))
    if (!read.success) return failed(invalid(read.error))
    const { name, header, rows } = read.data
    return new Response(xlsxOf(name, header, rows), {
      headers: {
        'Content-Type': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.xlsx`)}`,
        'X-Content-Type-Options': 'nosniff',
        'Cache-Control': 'private, no-store',
      },
    })
  })
}
