'use client'
import { useState } from 'react'
import { matchRank } from '@/core/people/names'
import { TextInput } from '@/ui/field'

/** Goes to a student by a part of the name or the number while it is typed; Enter goes on in the grid. */
export function FindStudent({
  students,
  onFound,
  onDone,
}: {
  students: readonly { readonly id: string; readonly name: string; readonly number: number | null }[]
  onFound: (studentId: string) => void
  onDone: () => void
}) {
  const [text, setText] = useState('')
  const found = (typed: string) => {
    const ranked = students.map((s) => ({
      id: s.id,
      rank: String(s.number) === typed.trim() ? 0 : matchRank(s.name, typed),
    }))
    return (ranked.find((s) => s.rank === 0) ?? ranked.find((s) => s.rank === 1))?.id
  }
  const isNobody = text.trim() !== '' && found(text) === undefined
  return (
    <span className="flex items-center gap-2 no-print">
      <TextInput
        type="search"
        data-find-student
        aria-label="Find a student in this class"
        placeholder="Find a student"
        className="w-40!"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          const id = event.target.value.trim() === '' ? undefined : found(event.target.value)
          if (id) onFound(id)
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' && event.key !== 'Escape') return
          event.preventDefault()
          setText('')
          onDone()
        }}
      />
      <span role="status" className="text-muted">
        {isNobody && 'Nobody'}
      </span>
    </span>
  )
}
