/** Shown while a page is being made. */
export default function Loading() {
  return (
    <p className="sheet text-muted" role="status">
      Loading
    </p>
  )
}
