import { defineMail } from '@/server/platform/mail'
import { passwordLink } from '@/server/platform/new-password'

/** How long the link works, in days. */
const linkDays = 3

/** What a member of staff needs for signing in. The link is made when the mail is sent. */
export const accountOpened = defineMail<{
  readonly accountId: string
  readonly school: string
  readonly name: string
  readonly username: string
  /** Where one signs in. */
  readonly address: string
}>({
  subject: ({ school }) => `${school}: your sign-in`,
  body: ({ school, name, username, address }, link) =>
    [
      `Dear ${name},`,
      `You work with Kedge at ${school}. Your user name is ${username}. Open this link to choose your password:`,
      link,
      `The link works once, for ${linkDays} days. After that, sign in at ${address}.`,
      school,
    ].join('\n\n'),
  link: (context, { accountId }) => passwordLink(context, accountId, linkDays * 24),
  example: {
    accountId: '00000000-0000-7000-8000-000000000001',
    school: 'Wrackline School',
    name: 'Remi Achterberg',
    username: 'r.achterberg',
    address: 'https://kedge.wrackline.example',
  },
})
