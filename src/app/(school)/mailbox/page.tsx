import type { Metadata } from 'next'
import { config } from '@/server/platform/config'
import { actor, fetchForPage } from '@/screen/page-data'
import { NotSent } from './not-sent'

export const metadata: Metadata = { title: 'Mails' }

export default async function MailboxPage() {
  const [received, notSent, { timeZone }] = await Promise.all([
    fetchForPage('mail.received', {}),
    fetchForPage('mail.notSent', {}),
    actor(),
  ])
  const moment = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone,
  })
  const isMailbox = config().KEDGE_MAILBOX === '1'
  return (
    <div className="sheet max-w-4xl">
      <h1 className="mb-1">{isMailbox ? 'Stand-in mailbox' : 'Mails that were not sent'}</h1>
      <p className="mb-4 text-muted">
        {isMailbox
          ? 'In place of a mail server: what Kedge sends lands here and nothing leaves this machine.'
          : 'Kedge tries to send a mail for about four days. After that you can send it again from here.'}
      </p>
      <NotSent initial={notSent} />
      {isMailbox && received.length === 0 ? (
        <p>
          No mail yet. Enrolling a student with a guardian&apos;s e-mail address, or releasing cards, sends
          some.
        </p>
      ) : (
        <ul>
          {received.map((m) => (
            <li key={m.messageId} className="border-t border-rule">
              <details>
                <summary className="grid grid-cols-[110px_minmax(0,1fr)_minmax(0,1.3fr)] gap-3 py-2">
                  <span className="text-muted">{moment.format(new Date(m.receivedAt))}</span>
                  <span className="truncate">{m.recipient}</span>
                  <strong className="truncate">{m.subject}</strong>
                </summary>
                <pre className="mb-3 border border-rule bg-panel p-4 font-sans whitespace-pre-wrap">
                  {m.body}
                </pre>
              </details>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
