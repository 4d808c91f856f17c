import type { Edit, Shelf } from './outbox'

/** Keeps edits in the browser's storage, one entry each, so that several pages of one person do not disturb each other. */
export function browserShelf(owner: string): Shelf {
  const prefix = `kedge.edit.${owner}.`
  return {
    load: () =>
      Object.keys(localStorage)
        .filter((key) => key.startsWith(prefix))
        .flatMap((key) => {
          const text = localStorage.getItem(key)
          return text ? [JSON.parse(text) as Edit] : []
        }),
    put: (edit) => localStorage.setItem(prefix + edit.id, JSON.stringify(edit)),
    drop: (id) => localStorage.removeItem(prefix + id),
  }
}
