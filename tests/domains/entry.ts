import type { Random } from '@/demo/random'
import type { World } from '../walks/world'
import type { Role } from '@/server/platform/actor'

/** Where a role may: with every object of the school, only with its own, or nowhere. */
export type May = 'all' | 'own' | 'none'
export type Row = Readonly<Partial<Record<Role, May>>>

/** Objects of the school by what they are: one's own, or foreign ones. */
export type Objects = Readonly<Record<string, string>>

/** As whom an entry is asked, and with whose objects. */
export interface As {
  readonly role: Role
  readonly isOwn: boolean
  readonly foreign: Objects
  /** A run and a job of this role's, or of somebody else's where the objects are foreign. */
  readonly runId: string
  readonly jobId: string
}

/** What the walks over the whole registry know of a query or command. */
export interface Entry {
  /** Who may; whoever is not named may not. */
  readonly who: Row
  /** It needs no object of the school: it answers about the asker's own school, or changes only that. */
  readonly aboutOneself?: true
  /** An input with the objects given; empty without. What is tested is the right, not what then happens. */
  readonly input?: (objects: Objects, as: As) => object
  /** What a random walk draws otherwise than the schema alone would let it; laid over what was drawn. */
  // Each is typed where it is written.

  readonly draw?: (random: Random, world: World, drawn: any) => object
}

/** The entries of a domain by their names in it. */
export type Entries = Readonly<Record<string, Entry>>

export const row = (may: Row): Row => may
export const staff = row({
  administrator: 'all',
  head: 'all',
  office: 'all',
  records: 'all',
  teacher: 'all',
})
export const everyone = row({ ...staff, guardian: 'all', student: 'all' })
export const ownOfEveryone = row({
  administrator: 'own',
  head: 'own',
  office: 'own',
  records: 'own',
  teacher: 'own',
  guardian: 'own',
  student: 'own',
})
export const office = row({ administrator: 'all', head: 'all', office: 'all', records: 'all' })
export const management = row({ administrator: 'all', head: 'all', office: 'all' })
export const admin = row({ administrator: 'all' })
export const adminAndOffice = row({ administrator: 'all', office: 'all' })
export const lead = row({ administrator: 'all', head: 'all' })
export const teacherOwn = row({ teacher: 'own' })
export const teacherOwnAndLead = row({ ...lead, teacher: 'own' })
export const teacherOwnAndOffice = row({ ...office, teacher: 'own' })
export const printers = row({ ...management, teacher: 'own' })
