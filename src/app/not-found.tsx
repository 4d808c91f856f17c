import Link from './shared/link'

/** Shown for an address that leads nowhere. */
export default function NoPage() {
  return (
    <main className="sheet grid max-w-xl justify-items-start gap-4">
      <h1>Not here</h1>
      <p>
        There is nothing at this address, or it is not yours to see. Check the address, or ask the office for
        access.
      </p>
      <Link className="link" href="/">
        Go to the start
      </Link>
    </main>
  )
}
