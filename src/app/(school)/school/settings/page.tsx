import { fetchForPage } from '@/screen/page-data'
import { SettingsPage } from './settings-page'

export default async function Page() {
  return <SettingsPage initial={await fetchForPage('year.settings', {})} />
}
