import { invitationLink } from '@/server/platform/invitation'
import { defineMail } from '@/server/platform/mail'

interface Invitation {
  readonly invitationId: string
  readonly school: string
  readonly name: string
}

/** Invites a guardian to read report cards. The link in it is made when the mail is sent. */
export const accountInvitation = defineMail<Invitation>({
  subject: ({ school }) => `${school}: your account`,
  body: ({ school, name }, link) =>
    [
      `Dear ${name},`,
      `You can read ${school}'s report cards for your child in Kedge. Open this link to choose a password, or to sign in if you already have an account:`,
      link,
      'The link works for 14 days. The school office can send you a new one.',
      school,
    ].join('\n\n'),
  link: (context, { invitationId }) => invitationLink(context, invitationId),
  example: {
    invitationId: '00000000-0000-7000-8000-000000000001',
    school: 'Wrackline School',
    name: 'Bea Sandvik',
  },
})

/** A message the office writes to a guardian. */
export const guardianMessage = defineMail<{
  readonly subject: string
  readonly text: string
  readonly guardian: string
  readonly sender: string
  readonly school: string
}>({
  subject: ({ school, subject }) => `${school}: ${subject}`,
  body: ({ guardian, text, sender, school }) =>
    [`Dear ${guardian},`, text, `${sender}\n${school}`].join('\n\n'),
  example: {
    subject: 'No ferry on Friday',
    text: 'The ferry does not sail on Friday morning. School begins at ten.',
    guardian: 'Hana Marsh',
    sender: 'Ewan Leask',
    school: 'Wrackline School',
  },
})
