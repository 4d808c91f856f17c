/** Whether two values read alike once they are sent: what is missing counts as null. */
export const sameValue = (a: unknown, b: unknown): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null)
