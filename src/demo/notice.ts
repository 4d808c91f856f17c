import { demoPasswords } from './passwords'

/** What the sign-in page of a demo says, and who can sign in with which password. */
export const demoNotice = {
  heading: 'This is a demo of the made-up Wrackline School',
  text: 'Its people, marks and messages are invented, and no mail leaves this machine. Anybody below can sign in.',
  users: [
    {
      username: 'd.munro',
      password: demoPasswords.initial,
      who: 'Dalia Munro, office. First sign-in: chooses a password of her own.',
    },
    { username: 'e.leask', password: demoPasswords.chosen, who: 'Ewan Leask, office' },
    {
      username: 'r.achterberg',
      password: demoPasswords.chosen,
      who: 'Remi Achterberg, teacher: 7 Tern, 7 Science A and three more classes',
    },
    { username: 's.kirkness', password: demoPasswords.chosen, who: 'Sunniva Kirkness, head' },
    {
      username: 'm.vester',
      password: demoPasswords.chosen,
      who: 'Mara Vester, administrator; reads the stand-in mailbox',
    },
    {
      username: 'hana.marsh@islandmail.example',
      password: demoPasswords.chosen,
      who: 'Hana Marsh, mother of Ilse Okonjo-Marsh in 7 Tern',
    },
  ],
} as const
