import { RegisterPage } from '@/app/(school)/attendance/registers/[homeroomId]/register'
import { fetchForPage, param, workingDate } from '@/screen/page-data'

interface Props {
  params: Promise<{ classId: string }>
  searchParams: Promise<Record<string, string | undefined>>
}

export default async function Page({ params, searchParams }: Props) {
  const { classId } = await params
  const asked = (await param(searchParams, 'session')) || null
  const date = await workingDate(searchParams)
  const initial = await fetchForPage('attendance.lessonRegister', { classId, date, session: asked })
  const input = { classId, date, session: initial.session }
  return <RegisterPage key={`${classId} ${date} ${input.session}`} input={input} initial={initial} />
}
