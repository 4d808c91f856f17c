import { textOf, type TableWords } from '@/server/platform/words'

/** How mails read in a history. */
export const mailWords: Readonly<Record<string, TableWords>> = {
  mail: {
    kind: 'Mail',
    which: (values) => textOf(values.to_address),
    columns: { subject: 'subject', state: 'state' },
  },
  invitation: {
    kind: 'Invitation',
    which: (values) => textOf(values.email),
    columns: { accepted_at: 'accepted' },
  },
  membership: { kind: 'Access', columns: { role: 'role', active: 'active' } },
}
