'use client'
import type { ReactNode } from 'react'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { useAnswer } from '@/screen/use-live'
import type { QueryInput, QueryName, QueryOutput } from '@/server/registry'

/** A dialog that first asks for what it offers. */
export function LoadedDialog<N extends QueryName>({
  title,
  query,
  input,
  onClose,
  children,
}: {
  title: string
  query: N
  input: QueryInput<N>
  onClose: () => void
  children: (offered: QueryOutput<N>) => ReactNode
}) {
  const { answer, problem } = useAnswer(query, input)
  if (answer) return children(answer)
  return (
    <Dialog title={title} onClose={onClose}>
      {problem ? <Problem>{problem}</Problem> : <p role="status">Loading</p>}
    </Dialog>
  )
}
