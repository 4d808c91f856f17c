import { redirect } from 'next/navigation'
import { actor } from '@/screen/page-data'
import { hasRole, staffRoles } from '@/server/platform/actor'

/** The beginning: Today for staff, the cards for guardians. */
export default async function Start() {
  redirect(hasRole(await actor(), ...staffRoles) ? '/today' : '/report-cards')
}
