import type { KyselyPlugin } from 'kysely'

/**
 * Lets statements of a transaction out only as long as it is open. When one of several that run side by side fails, the
 * others may still have statements to send: by then another transaction has the connection.
 */
export function whileOpen(): { readonly plugin: KyselyPlugin; readonly end: () => void } {
  let open = true
  return {
    plugin: {
      transformQuery: ({ node }) => {
        if (!open) throw new Error('a statement of a transaction that has ended')
        return node
      },
      transformResult: ({ result }) => Promise.resolve(result),
    },
    end: () => (open = false),
  }
}
