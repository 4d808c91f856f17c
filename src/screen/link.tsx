'use client'
// eslint-disable-next-line @typescript-eslint/no-restricted-imports -- it asks first
import NextLink from 'next/link'
import { useSearchParams } from 'next/navigation'
import { useCallback, type ComponentProps } from 'react'
import { isDoubtful, useGo } from './go'

/** An address with the chosen date, unless it names one itself. */
export function withDate(href: string, date: string | null): string {
  if (!date || /[?&]date=/.test(href)) return href
  return `${href}${href.includes('?') ? '&' : '?'}date=${date}`
}

/** Makes addresses keep the chosen date. */
export function useDated(): (href: string) => string {
  const date = useSearchParams().get('date')
  return useCallback((href) => withDate(href, date), [date])
}

/**
 * A link within Kedge; it keeps the chosen date. It fetches nothing before it is followed: pages are made from the
 * database in a few milliseconds, and a rail of twelve links would otherwise ask for twelve of them on every page.
 */
export default function Link({
  href: asked,
  dated = true,
  ...rest
}: Omit<ComponentProps<typeof NextLink>, 'href' | 'onNavigate'> & {
  href: string
  /** Whether it keeps the chosen date. */
  dated?: boolean
}) {
  const withChosen = useDated()
  const href = dated ? withChosen(asked) : asked
  const go = useGo()
  return (
    <NextLink
      prefetch={false}
      href={href}
      onNavigate={(event) => {
        if (!isDoubtful()) return
        event.preventDefault()
        go.push(href)
      }}
      {...rest}
    />
  )
}
