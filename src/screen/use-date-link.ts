'use client'
import { useSearchParams } from 'next/navigation'

/** Makes addresses keep the date one works in, when it is not today. */
export function useDateLink(): (href: string) => string {
  const date = useSearchParams().get('date')
  return (href) => (date ? `${href}${href.includes('?') ? '&' : '?'}date=${date}` : href)
}
