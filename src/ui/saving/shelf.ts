import type { Edit, Standing } from './edit'
import type { Sealer } from './sealed'

/** An edit that was not saved and is not tried again by itself. */
export interface Rejected {
  readonly edit: Edit
  /** Someone else changed the same; a rule forbids it; or it met an error of ours again and again. */
  readonly reason: 'conflict' | 'refused' | 'fault'
  readonly message: string
  /** With a conflict: what is saved. */
  readonly standing: readonly Standing[]
}

/** What is kept of an edit until it is saved or discarded. */
export interface Kept {
  readonly edit: Edit
  readonly rejected?: Omit<Rejected, 'edit'>
}

/** Where edits are kept so that a closed page loses none. */
export interface Shelf {
  /** The edits of this page, and those that closed pages of the same account left. */
  readonly load: () => Promise<readonly Kept[]>
  /** Answers whether it could be kept. */
  readonly put: (kept: Kept) => boolean
  readonly drop: (editId: string) => void
}

interface Owner {
  readonly accountId: string
  readonly schoolId: string
}

const prefixOf = ({ accountId, schoolId }: Owner) => `kedge.edit.${accountId}.${schoolId}.`
const lockOf = (tab: string) => `kedge.tab.${tab}`

/** The pages that are open, by the lock each holds while it lives; undefined where the browser has no locks. */
async function openTabs(): Promise<ReadonlySet<string> | undefined> {
  if (!('locks' in navigator)) return undefined
  const { held } = await navigator.locks.query()
  return new Set(held?.map((lock) => lock.name ?? ''))
}

function keptAt(key: string, { open }: Sealer): Kept | undefined {
  try {
    const kept = JSON.parse(open(localStorage.getItem(key) ?? '') ?? '') as Kept
    return typeof kept.edit.id === 'string' && typeof kept.edit.record === 'string' ? kept : undefined
  } catch {
    // Not written by this version, sealed with another key, or damaged: nothing that could be sent.
    localStorage.removeItem(key)
    return undefined
  }
}

/** Every key of the browser's storage that begins with a prefix; none where storage is blocked. */
function keysFrom(storage: () => Storage, prefix: string): readonly string[] {
  try {
    return Object.keys(storage()).filter((key) => key.startsWith(prefix))
  } catch {
    // The browser blocks storage; edits then live as long as the page.
    return []
  }
}

/** How many edits of an account this device keeps, in whatever page they were made. */
export function countKept(owner: Owner): number {
  return keysFrom(() => localStorage, prefixOf(owner)).length
}

/** Deletes everything of an account from this device. */
export function clearKept({ accountId }: { readonly accountId: string }): void {
  for (const key of keysFrom(() => localStorage, `kedge.edit.${accountId}.`)) localStorage.removeItem(key)
  for (const key of keysFrom(() => sessionStorage, `kedge.draft.${accountId}.`))
    sessionStorage.removeItem(key)
}

/**
 * Keeps edits in the browser's storage, by account, school and page, so that the pages of one person do not send each
 * other's edits. Those of a page that was closed are taken over by the next. They are sealed: a session may end while
 * some wait, and others may use the device.
 */
export function browserShelf(owner: Owner, tab: string, sealed: Sealer): Shelf {
  const prefix = prefixOf(owner)
  const keyOf = (id: string) => `${prefix}${tab}.${id}`
  const write = (kept: Kept) => localStorage.setItem(keyOf(kept.edit.id), sealed.seal(JSON.stringify(kept)))
  if ('locks' in navigator) void navigator.locks.request(lockOf(tab), () => new Promise(() => {}))
  return {
    load: async () => {
      const open = await openTabs()
      const mine: Kept[] = []
      for (const key of keysFrom(() => localStorage, prefix)) {
        const [from = ''] = key.slice(prefix.length).split('.')
        if (from !== tab && (open?.has(lockOf(from)) ?? false)) continue
        const kept = keptAt(key, sealed)
        if (!kept) continue
        mine.push(kept)
        if (from === tab) continue
        write(kept)
        localStorage.removeItem(key)
      }
      return mine
    },
    put: (kept) => {
      try {
        write(kept)
        return true
      } catch {
        // Full or blocked: the edit still counts and is sent; the page says that it must stay open.
        return false
      }
    },
    drop: (id) => {
      for (const key of keysFrom(() => localStorage, keyOf(id))) localStorage.removeItem(key)
    },
  }
}
