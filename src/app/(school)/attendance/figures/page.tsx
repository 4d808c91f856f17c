import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { Choose } from './choose'
import { FiguresPage } from './figures-page'
import { isChoosable, scopeOf } from './scope'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const [choices, of, period, sessions] = await Promise.all([
    fetchForPage('attendance.figureChoices', { date }),
    param(searchParams, 'of'),
    param(searchParams, 'period'),
    param(searchParams, 'sessions'),
  ])
  const scope = scopeOf(choices, { of, period, sessions }, date)
  if (!scope || !isChoosable(scope)) return <Choose choices={choices} isUnknown={of !== undefined} />
  return (
    <FiguresPage
      key={JSON.stringify(scope)}
      choices={choices}
      scope={scope}
      initial={await fetchForPage('attendance.figures', scope)}
    />
  )
}
