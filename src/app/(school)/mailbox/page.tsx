import type { Metadata } from 'next'
import { mailbox } from '@/server/mail/queries'
import { actor, fetchForPage } from '../../shared/page-data'

export const metadata: Metadata = { title: 'Mailbox' }

export default async function MailboxPage() {
  const [{ received, notSent }, { timeZone }] = await Promise.all([fetchForPage(mailbox, {}), actor()])
  const moment = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone,
  })
  return (
    <div className="sheet max-w-4xl">
      <h1 className="mb-1">Stand-in mailbox</h1>
      <p className="mb-4 text-muted">
        In place of a mail server: what Kedge sends lands here and nothing leaves this machine.
      </p>
      {notSent.length > 0 && (
        <section className="hint mb-4">
          <h2>Not sent yet: {notSent.length}</h2>
          <ul>
            {notSent.map((m) => (
              <li key={m.id}>
                {m.to_address}, {m.subject}
                {m.error && (
                  <span className="text-port">
                    : {m.error};{' '}
                    {m.state === 'failed' ? 'given up after many tries' : 'tried again by itself'}
                  </span>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
      {received.length === 0 ? (
        <p>
          No mail yet. Enrolling a student with a guardian&apos;s e-mail address, or releasing cards, sends
          some.
        </p>
      ) : (
        <ul>
          {received.map((m) => (
            <li key={m.message_id} className="border-t border-rule">
              <details>
                <summary className="grid grid-cols-[110px_minmax(0,1fr)_minmax(0,1.3fr)] gap-3 py-2">
                  <span className="text-muted">{moment.format(new Date(m.received_at))}</span>
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
