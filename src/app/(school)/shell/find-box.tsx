'use client'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { Dialog } from '@/ui/dialog'
import { useSchool } from '@/screen/school-context'
import { askServer } from '@/screen/server'
import { useDateLink } from '@/screen/use-date-link'

type Found = QueryOutput<'find.anything'>[number]

/** One box that finds students, registers, gradebooks, assessments and acts. */
export function FindBox({ onClose }: { onClose: () => void }) {
  const { places, acts } = useSchool()
  const router = useRouter()
  const dated = useDateLink()
  const [text, setText] = useState('')
  const [found, setFound] = useState<readonly Found[]>([])
  const [problem, setProblem] = useState<string>()
  useEffect(() => {
    let late = false
    const timer = setTimeout(() => {
      void askServer('find.anything', { text }).then((result) => {
        if (late) return
        setFound(result.ok ? result.value : [])
        setProblem(result.ok ? undefined : result.failure.message)
      })
    }, 80)
    return () => {
      late = true
      clearTimeout(timer)
    }
  }, [text])
  const go = (href: string) => {
    onClose()
    router.push(dated(href))
  }
  const words = text.toLowerCase()
  const shownActs = [...acts, ...places].filter((a) => a.name.toLowerCase().includes(words))
  const row = 'flex justify-between gap-4 px-3 py-2 data-[selected=true]:bg-shoal cursor-pointer'
  return (
    <Dialog title="Find" onClose={onClose}>
      <Command shouldFilter={false} label="Find">
        <Command.Input
          value={text}
          onValueChange={setText}
          autoFocus
          placeholder="Name, number, class, assessment or act"
          className="mb-2 w-full rounded-[3px] border border-line bg-panel px-2 py-2"
        />
        <Command.List className="max-h-[50vh] overflow-auto">
          {found.length + shownActs.length === 0 && (
            <Command.Item disabled value="nothing" className="p-3 text-muted">
              {problem ?? 'No matches. Try part of a name.'}
            </Command.Item>
          )}
          {found.map((f) => (
            <Command.Item
              key={f.kind + f.id}
              value={f.kind + f.id}
              onSelect={() => go(f.href)}
              className={row}
            >
              <span>{f.name}</span>
              <span className="text-muted">{f.detail}</span>
            </Command.Item>
          ))}
          {shownActs.map((a) => (
            <Command.Item key={a.href} value={a.href} onSelect={() => go(a.href)} className={row}>
              <span>{a.name}</span>
              <span className="text-muted">{places.includes(a) ? 'page' : 'act'}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  )
}
