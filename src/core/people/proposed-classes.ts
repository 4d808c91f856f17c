interface Offered {
  readonly classes: readonly { readonly id: string; readonly inTerm: boolean }[]
  /** Which homeroom's students are in which class. */
  readonly proposed: readonly { readonly homeroomId: string; readonly classId: string }[]
}

/** The classes that a homeroom's students are in, as far as they run in the term of the start date. */
export function proposedClasses({ classes, proposed }: Offered, homeroomId: string): string[] {
  const inTerm = new Set(classes.filter((c) => c.inTerm).map((c) => c.id))
  return proposed.filter((p) => p.homeroomId === homeroomId && inTerm.has(p.classId)).map((p) => p.classId)
}
