import Link from './link'

/** The same for a page that does not exist and for one the person may not see. */
export function NotFoundPage() {
  return (
    <>
      <title>Page not found · Kedge</title>
      <h1>Page not found</h1>
      <p>Page not found, or you don’t have access to it. Check the address, or ask the office for access.</p>
      <Link className="link" href="/">
        Go to the home page
      </Link>
    </>
  )
}
