import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { GradebookPage } from './gradebook'

interface Props {
  params: Promise<{ classId: string }>
  searchParams: Promise<Record<string, string | undefined>>
}

export default async function Page({ params, searchParams }: Props) {
  const { classId } = await params
  const input = { classId, date: await workingDate(searchParams) }
  const studentId = await param(searchParams, 'student')
  return (
    <GradebookPage
      key={`${classId} ${input.date} ${studentId}`}
      studentId={studentId}
      input={input}
      initial={await fetchForPage('marks.gradebook', input)}
    />
  )
}
