/** Whether this version of Kedge can work with the database, and why not. */
export type Fit =
  | { readonly kind: 'fits' }
  /** The database does not answer. */
  | { readonly kind: 'away'; readonly why: string }
  /** It would work, but schools would see each other. */
  | { readonly kind: 'unsafe'; readonly why: string }
  /** It was migrated less far, or further, than this version knows. */
  | { readonly kind: 'other version'; readonly why: string }

const shared = globalThis as typeof globalThis & { kedgeFit?: Fit }

/** What was found last; all is well where nobody has looked, as in tests. */
export const lastFit = (): Fit => shared.kedgeFit ?? { kind: 'fits' }

/** Keeps what was found, for the whole process. Answers what was known before. */
export function keepFit(found: Fit): Fit | undefined {
  const before = shared.kedgeFit
  shared.kedgeFit = found
  return before
}
