'use client'
import { Button } from '@/ui/button'

/** Shown in place of a page that could not be made; everything around it stays. */
export default function PageError({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <div className="sheet grid max-w-xl justify-items-start gap-4">
      <h1>This page could not be shown</h1>
      <p>
        Kedge could not read what belongs here, most likely because its database is away for a moment. Nothing
        you did before is lost.
      </p>
      <Button onClick={reset}>Try again</Button>
      {error.message && <p className="text-[12px] text-muted">For the administrator: {error.message}</p>}
    </div>
  )
}
