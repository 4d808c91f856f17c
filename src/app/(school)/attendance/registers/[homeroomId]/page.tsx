import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { RegisterPage } from './register'

interface Props {
  params: Promise<{ homeroomId: string }>
  searchParams: Promise<Record<string, string | undefined>>
}

export default async function Page({ params, searchParams }: Props) {
  const { homeroomId } = await params
  const session = (await param(searchParams, 'session')) === 'afternoon' ? 'afternoon' : 'morning'
  const input = { homeroomId, date: await workingDate(searchParams), session } as const
  return (
    <RegisterPage
      key={`${homeroomId} ${input.date} ${session}`}
      input={input}
      initial={await fetchForPage('attendance.register', input)}
    />
  )
}
