import type { Certificate } from '@/core/attendance/certificate'
import { printCertificate } from '@/formats/pdf/certificate'
import { notFound } from '@/server/platform/failure'
import { answered, asActor, failed } from '@/server/platform/http'
import { fileResponse } from '@/server/platform/file-response'
import { executeQuery } from '@/server/platform/run'
import { queries } from '@/server/registry'

/** A student's certificate of attendance for a period, as it stands now. */
export async function GET(request: Request) {
  const certificate = queries.get('attendance.certificate')
  if (!certificate) return failed(notFound)
  const { searchParams } = new URL(request.url)
  return asActor(request, async (actor) => {
    const result = await executeQuery(certificate, actor, Object.fromEntries(searchParams))
    if (!result.ok) return answered(result)
    const contents = result.value as Certificate
    return fileResponse(await printCertificate(contents), `Attendance of ${contents.student}.pdf`)
  })
}
