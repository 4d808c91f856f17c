const chosen = 'harbour lights at dusk'

/** Whom a demo can be entered as. The passwords are those the demo data is loaded with; a test holds them together. */
export const demoUsers = [
  {
    username: 'd.munro',
    password: 'tide table 1',
    who: 'Dalia Munro, office. First sign-in: chooses a password of her own.',
  },
  { username: 'e.leask', password: chosen, who: 'Ewan Leask, office' },
  {
    username: 'r.achterberg',
    password: chosen,
    who: 'Remi Achterberg, teacher: 7 Tern, 7 Science A and three more classes',
  },
  { username: 's.kirkness', password: chosen, who: 'Sunniva Kirkness, head' },
  { username: 'm.vester', password: chosen, who: 'Mara Vester, administrator; reads the stand-in mailbox' },
  {
    username: 'hana.marsh@islandmail.example',
    password: chosen,
    who: 'Hana Marsh, mother of Ilse Okonjo-Marsh in 7 Tern',
  },
] as const
