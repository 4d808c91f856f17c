'use client'
import { PageError } from '@/screen/page-error'
import './globals.css'

/** Stands in for the whole document when even that could not be made. */
export default function GlobalError(props: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <html lang="en">
      <body>
        <PageError {...props} />
      </body>
    </html>
  )
}
