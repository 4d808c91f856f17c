import { redirect } from 'next/navigation'
import { actor } from './shared/page-data'

/** The beginning: Today for staff, the cards for guardians. */
export default async function Start() {
  const { role } = await actor()
  redirect(role === 'guardian' ? '/cards' : '/today')
}
