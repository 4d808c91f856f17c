import { config } from '@/server/platform/config'
import { actor, fetchForPage } from '@/screen/page-data'
import { limits } from '@/core/limits'
import { momentWords } from '@/core/calendar/moment-words'
import { ShownAtMost } from '@/screen/shown-at-most'
import { PageHead } from '@/screen/page-head'
import { NotSent } from './not-sent'
import { TestMail } from './test-mail'

export default async function MailPage() {
  const [received, notSent, { timeZone }] = await Promise.all([
    fetchForPage('mail.received', {}),
    fetchForPage('mail.notSent', {}),
    actor(),
  ])
  const moment = momentWords(timeZone)
  const isMailbox = config().KEDGE_MAILBOX === '1'
  return (
    <div className="sheet">
      <PageHead
        title="Mail"
        detail={
          isMailbox
            ? 'Stand-in mailbox: nothing leaves this machine.'
            : 'Kedge tries to send a mail for about four days. After that you can send it again here.'
        }
      />
      <TestMail />
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
                  <span className="text-muted">{moment(m.receivedAt)}</span>
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
      <ShownAtMost count={received.length} most={limits.mailsShown} what="mails" />
    </div>
  )
}
