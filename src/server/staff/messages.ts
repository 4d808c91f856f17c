import { refusals } from '@/server/platform/failure'

export const { refuse, refuseField } = refusals('staff', {
  usernameTaken: ({ username }: { username: string }) =>
    `The user name ${username} is taken. Choose another, for example ${username}2.`,
  emailTaken: ({ email }: { email: string }) =>
    `The address ${email} belongs to another account. Use another address, or leave it empty.`,
  weak: ({ rules }: { rules: readonly string[] }) => rules.join(' '),
  lastAdministrator: ({ name }: { name: string }) =>
    `${name} is the only administrator. Make someone else an administrator first.`,
  usedElsewhere: ({ name }: { name: string }) =>
    `${name} also belongs to another school, so the password cannot be set here. They can change it themselves, or whoever runs Kedge resets it.`,
  notActive: () => 'Only a member of staff with an active account can be sent a link.',
  noAddress: ({ name }: { name: string }) =>
    `${name} has no e-mail address. Enter one, or set a new password and hand over the slip.`,
  notConfirmed: ({ name }: { name: string }) =>
    `${name} also belongs to another school and has not confirmed this address, so no link can be sent to it. They can confirm it from the menu under their name.`,
  noAccount: ({ name }: { name: string }) => `${name} has no account at this school.`,
})
