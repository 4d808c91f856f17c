import NextLink from 'next/link'
import type { ComponentProps } from 'react'

/**
 * A link within Kedge. It fetches nothing before it is followed: pages are made from the database in a few
 * milliseconds, and a rail of twelve links would otherwise ask for twelve of them on every page.
 */
export default function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />
}
