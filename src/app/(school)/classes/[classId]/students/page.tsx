import { fetchForPage, workingDate } from '@/screen/page-data'
import { ClassStudents } from './class-students'

interface Props {
  params: Promise<{ classId: string }>
  searchParams: Promise<Record<string, string | undefined>>
}

export default async function Page({ params, searchParams }: Props) {
  const { classId } = await params
  const input = { classId, date: await workingDate(searchParams) }
  return (
    <ClassStudents
      key={`${classId} ${input.date}`}
      input={input}
      initial={await fetchForPage('people.classMembers', input)}
    />
  )
}
