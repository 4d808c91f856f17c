/** A learning standard of a set, under another one or at the top. */
export interface Standard {
  readonly id: string
  readonly parentId: string | null
  readonly code: string | null
  readonly statement: string
  /** Years it is meant for, by their codes (07 is Year 7); none where it is for all. */
  readonly years: readonly string[]
  /** Its identifier wherever it was published. */
  readonly source: string | null
}

/** A set of standards as it was read from a file. */
export interface StandardSet {
  readonly name: string
  readonly source: string | null
  /** Each after the one it stands under. */
  readonly standards: readonly Standard[]
}

export type ReadStandards =
  | { readonly set: StandardSet }
  /** Why nothing was read, each naming where it is wrong. */
  | { readonly problems: readonly string[] }

export interface Placed<S> {
  readonly standard: S
  /** 0 at the top. */
  readonly depth: number
}

/**
 * Standards as they are read: each under the one it belongs to, in the order given.
 * @returns what is left out stands in a circle, or under one that does not exist
 */
export function inTree<S extends { readonly id: string; readonly parentId: string | null }>(
  standards: readonly S[],
): { readonly placed: readonly Placed<S>[]; readonly left: readonly S[] } {
  const children = new Map<string | null, S[]>()
  for (const standard of standards) {
    const siblings = children.get(standard.parentId)
    if (siblings) siblings.push(standard)
    else children.set(standard.parentId, [standard])
  }
  const placed: Placed<S>[] = []
  const found = new Set<S>()
  // A stack of its own: a tree of thousands may be one long line.
  const next = [...(children.get(null) ?? [])].reverse().map((standard) => ({ standard, depth: 0 }))
  for (let at = next.pop(); at; at = next.pop()) {
    placed.push(at)
    found.add(at.standard)
    const { standard, depth } = at
    for (const child of [...(children.get(standard.id) ?? [])].reverse())
      next.push({ standard: child, depth: depth + 1 })
  }
  return { placed, left: standards.filter((s) => !found.has(s)) }
}

/** A standard by its code, or by its words where it has none. */
export const standardName = ({ code, statement }: Pick<Standard, 'code' | 'statement'>): string =>
  code ?? statement
