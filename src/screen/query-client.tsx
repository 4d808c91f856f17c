'use client'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import type { CallFailure } from './server'

/** A query that was not answered. */
export class CallError extends Error {
  constructor(readonly failure: CallFailure) {
    super(failure.message)
  }
}

/** Answers of the server as this page keeps them; nothing outlives the part that shows it. */
export function AnswersProvider({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: {
            networkMode: 'always',
            gcTime: 0,
            refetchOnMount: false,
            refetchOnWindowFocus: false,
            refetchOnReconnect: false,
            retryDelay: (attempt) => Math.min(15000, 500 * 2 ** attempt),
            retry: (attempts, error) =>
              error instanceof CallError && error.failure.kind === 'unavailable' && attempts < 6,
          },
        },
      }),
  )
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>
}
