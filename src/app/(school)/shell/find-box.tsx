'use client'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { Dialog } from '@/ui/dialog'
import { useSchool } from '../../shared/school-context'
import { askServer } from '../../shared/server'
import { useDateLink } from '../../shared/use-date-link'

type Found = QueryOutput<'people.find'>[number]

const hrefs: Readonly<Record<Found['kind'], (id: string) => string>> = {
  student: (id) => `/people/${id}`,
  homeroom: (id) => `/homerooms/${id}/register`,
  class: (id) => `/classes/${id}/gradebook`,
  assessment: (id) => `/assessments/${id}/findings`,
}

const office = ['administrator', 'head', 'office', 'records']
const acts = [
  { name: 'Enrol a student', href: '/people/enrol', roles: office },
  { name: 'Make an assessment', href: '/assessments/new', roles: ['teacher'] },
  { name: 'What is due today', href: '/today', roles: [...office, 'teacher'] },
]

/** One box that finds students, registers, gradebooks, assessments and acts. */
export function FindBox({ onClose }: { onClose: () => void }) {
  const { actor } = useSchool()
  const router = useRouter()
  const dated = useDateLink()
  const [text, setText] = useState('')
  const [found, setFound] = useState<readonly Found[]>([])
  const [problem, setProblem] = useState<string>()
  useEffect(() => {
    let late = false
    const timer = setTimeout(() => {
      void askServer('people.find', { text }).then((result) => {
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
  const shownActs = acts.filter((a) => a.roles.includes(actor.role) && a.name.toLowerCase().includes(words))
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
              {problem ?? 'Nothing is called that. Try part of a name.'}
            </Command.Item>
          )}
          {found.map((f) => (
            <Command.Item
              key={f.kind + f.id}
              value={f.kind + f.id}
              onSelect={() => go(hrefs[f.kind](f.id))}
              className={row}
            >
              <span>{f.name}</span>
              <span className="text-muted">{f.detail}</span>
            </Command.Item>
          ))}
          {shownActs.map((a) => (
            <Command.Item key={a.href} value={a.href} onSelect={() => go(a.href)} className={row}>
              <span>{a.name}</span>
              <span className="text-muted">act</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  )
}
