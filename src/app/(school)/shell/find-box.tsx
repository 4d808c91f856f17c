'use client'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { matchRank } from '@/core/people/names'
import { Dialog } from '@/ui/dialog'
import { useDated } from '@/screen/link'
import { useSchool } from '@/screen/school-context'
import { useAnswer } from '@/screen/use-live'

interface Entry {
  readonly key: string
  readonly name: string
  readonly detail: string
  readonly href: string
}

/** One box that finds students, registers, classes, assessments and pages. */
export function FindBox({ onClose }: { onClose: () => void }) {
  const { places, acts } = useSchool()
  const router = useRouter()
  const dated = useDated()
  const [text, setText] = useState('')
  // Enter before the answer to this text is there waits for it.
  const entered = useRef(false)
  const {
    answer = [],
    problem,
    asking,
  } = useAnswer('find.anything', text.trim() ? { text } : undefined, {
    after: 80,
    keep: true,
  })
  const go = (href: string) => {
    onClose()
    router.push(dated(href))
  }
  const pages = [...acts, ...places].filter((a) => matchRank(a.name, text) !== undefined)
  const entries: readonly Entry[] = [
    ...(text.trim() ? answer : []).map((f) => ({ ...f, key: f.kind + f.id })),
    ...pages.map((a) => ({ key: a.href, name: a.name, detail: 'page', href: a.href })),
  ]
  const first = entries[0]
  // What is typed next begins with the first again, also when the list comes later than the key.
  const [chosen, setChosen] = useState('')
  const selected = entries.some((e) => e.key === chosen) ? chosen : (first?.key ?? '')
  // The list hears which entry is selected only when that text changes, and forgets it by itself while entries come and
  // go; the space at its end, which it ignores, tells it again.
  const [turn, setTurn] = useState(0)
  useEffect(() => {
    if (asking) return
    if (entered.current && first) go(first.href)
    entered.current = false
  }, [asking, first?.key]) // eslint-disable-line react-hooks/exhaustive-deps -- only when an answer is there
  return (
    <Dialog title="Find" onClose={onClose}>
      <Command
        shouldFilter={false}
        label="Find"
        value={selected + ' '.repeat(turn % 2)}
        onValueChange={(key) => {
          setChosen(key)
          setTurn((n) => n + 1)
        }}
      >
        <Command.Input
          value={text}
          onValueChange={(next) => {
            entered.current = false
            setChosen('')
            setText(next)
          }}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' || !asking) return
            e.preventDefault()
            entered.current = true
          }}
          autoFocus
          placeholder="Name, number, class, assessment or page"
          className="mb-2 w-full rounded-[3px] border border-line bg-panel px-2 py-2"
        />
        {entries.length === 0 && (
          <p className="p-3 text-muted" role="status">
            {asking ? 'Searching' : (problem ?? 'No matches. Try part of a name.')}
          </p>
        )}
        <Command.List className="max-h-[50vh] overflow-auto" hidden={entries.length === 0}>
          {entries.map((f) => (
            <Command.Item
              key={f.key}
              value={f.key}
              onSelect={() => !asking && go(f.href)}
              className="flex cursor-pointer justify-between gap-4 px-3 py-2 data-[selected=true]:bg-shoal"
            >
              <span>{f.name}</span>
              <span className="text-muted">{f.detail}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  )
}
