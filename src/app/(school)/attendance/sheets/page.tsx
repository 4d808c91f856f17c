import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { SheetsPage } from './sheets-page'

const isId = (text: string | undefined) => text !== undefined && /^[0-9a-f-]{36}$/i.test(text)

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const homeroom = await param(searchParams, 'homeroom')
  const input = { date, homeroomId: isId(homeroom) ? (homeroom ?? null) : null }
  return (
    <SheetsPage
      key={`${date} ${input.homeroomId}`}
      input={input}
      initial={await fetchForPage('attendance.sheets', input)}
    />
  )
}
