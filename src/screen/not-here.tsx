import Link from './link'

/** What is not there and what is not one's own look alike. */
export function NotHere() {
  return (
    <>
      <h1>Not here</h1>
      <p>
        There is nothing at this address, or it is not yours to see. Check the address, or ask the office for
        access.
      </p>
      <Link className="link" href="/">
        Go to the start
      </Link>
    </>
  )
}
