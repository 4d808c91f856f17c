/** Says that a list ends where it does because it is long; nothing for a list that is whole. */
export function ShownAtMost({ count, most, what }: { count: number; most: number; what: string }) {
  if (count < most) return null
  return (
    <p className="mt-3 text-muted">
      The newest {most.toLocaleString('en-GB')} {what} are shown.
    </p>
  )
}
