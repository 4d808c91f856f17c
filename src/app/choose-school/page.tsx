import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { currentSchools } from '@/screen/page-data'
import { SchoolChoices } from './school-choices'

export const metadata: Metadata = { title: 'Choose a school · Kedge' }

/** For people who belong to several schools, and for those who belong to none any more. */
export default async function ChooseSchoolPage() {
  const found = await currentSchools()
  if (!found) redirect('/sign-in')
  const { name, schools } = found
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="mb-1">Choose a school</h1>
      <p className="mb-6 text-muted">
        {schools.length === 0
          ? `${name}, your account has no access to a school at the moment. Ask the school's office.`
          : `${name}, you have access to ${schools.length === 1 ? 'one school' : `${schools.length} schools`}.`}
      </p>
      <SchoolChoices schools={schools} />
    </main>
  )
}
