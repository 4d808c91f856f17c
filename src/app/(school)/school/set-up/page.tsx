import { hasSome } from '@/core/people/roles'
import { actor, fetchForPage, workingDate } from '@/screen/page-data'
import { SetUpPage } from './set-up-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const [date, { roles }] = await Promise.all([workingDate(searchParams), actor()])
  const [check, steps] = await Promise.all([
    fetchForPage('setUp.check', { date }),
    hasSome(roles, 'administrator') ? fetchForPage('setUp.state', { date }) : undefined,
  ])
  return <SetUpPage key={date} check={check} steps={steps} date={date} />
}
