import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { SheetsPage } from './sheets-page'

const isId = (text: string | undefined) => text !== undefined && /^[0-9a-f-]{36}$/i.test(text)

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const [homeroom, ofClass] = await Promise.all([
    param(searchParams, 'homeroom'),
    param(searchParams, 'class'),
  ])
  const id = ofClass ?? homeroom
  const input = {
    date,
    of: ofClass === undefined ? 'homerooms' : 'classes',
    id: isId(id) ? (id ?? null) : null,
  } as const
  return (
    <SheetsPage
      key={`${date} ${input.of} ${input.id}`}
      input={input}
      initial={await fetchForPage('attendance.sheets', input)}
    />
  )
}
