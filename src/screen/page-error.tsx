'use client'
// eslint-disable-next-line @typescript-eslint/no-restricted-imports -- there is no page to lose
import { useRouter } from 'next/navigation'
import { startTransition } from 'react'
import { Button } from '@/ui/button'

/** What a page tells about its failure: the kind, and for a refusal the words; see fetchForPage. */
const kindOf = (digest: string | undefined) => /^kedge:(\w+):?(.*)$/.exec(digest ?? '')

const words: Readonly<Record<string, string>> = {
  unavailable: 'Kedge is not available at the moment. Nothing you entered before is lost. Please try again.',
  fault: 'Something went wrong. Nothing you entered before is lost. Please try again.',
}

/** Shown in place of a page that could not be made; what is around it stays. */
export function PageError({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  const router = useRouter()
  const [, kind = 'fault', said] = kindOf(error.digest) ?? []
  return (
    <div className="sheet reading grid justify-items-start gap-4">
      <title>Page not shown · Kedge</title>
      <h1>{kind === 'refused' ? 'This page cannot be shown' : 'This page could not be loaded'}</h1>
      <p role="alert">{said || (words[kind] ?? words.fault)}</p>
      <Button
        onClick={() =>
          startTransition(() => {
            router.refresh()
            reset()
          })
        }
      >
        Try again
      </Button>
      {error.digest && !error.digest.startsWith('kedge:') && (
        <p className="text-[12px] text-muted">For the administrator: error {error.digest}</p>
      )}
    </div>
  )
}
