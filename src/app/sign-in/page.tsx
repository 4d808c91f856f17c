import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { ownPath } from '@/core/own-path'
import { config } from '@/server/platform/config'
import { currentSession, param } from '@/screen/page-data'
import { SignInForm } from './sign-in-form'

export const metadata: Metadata = { title: 'Sign in · Kedge' }

export default async function SignInPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const session = await currentSession()
  if (session.kind === 'signed in') redirect('/')
  if (session.kind === 'password first') redirect('/set-password')
  if (session.kind === 'choose school') redirect('/choose-school')
  const notice = config().KEDGE_NOTICE
  const asked = await param(searchParams, 'next')
  return (
    <main className="mx-auto grid max-w-6xl gap-10 px-6 py-16 lg:grid-cols-[280px_1fr]">
      <section>
        <h1 className="mb-1 text-[30px]">Kedge</h1>
        <p className="mb-8 text-muted">Registers, assessments, gradebooks and report cards.</p>
        <SignInForm next={ownPath(asked)} />
        <p className="mt-6">
          <a className="link" href="/forgotten-password">
            Forgotten your password?
          </a>
        </p>
      </section>
      {notice && (
        <section
          aria-labelledby="demo"
          tabIndex={0}
          className="min-w-0 overflow-x-auto lg:border-l lg:border-rule lg:pl-8"
        >
          <h2 id="demo" className="mb-1">
            {notice.heading}
          </h2>
          <p className="mb-4 text-muted">{notice.text}</p>
          <table className="rows">
            <thead>
              <tr>
                <th>User name</th>
                <th>Password</th>
                <th>Who</th>
              </tr>
            </thead>
            <tbody>
              {notice.users.map((user) => (
                <tr key={user.username}>
                  <th scope="row" className="font-bold">
                    {user.username}
                  </th>
                  <td className="whitespace-nowrap">{user.password}</td>
                  <td>{user.who}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </main>
  )
}
