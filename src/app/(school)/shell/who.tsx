'use client'
import dynamic from 'next/dynamic'
import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { roleWords } from '@/core/people/roles'
import { KeyCap } from '@/ui/button'
import { useSchool } from '@/screen/school-context'

const SignOut = dynamic(() => import('./sign-out').then((m) => m.SignOut), { ssr: false })

const item = 'flex justify-between gap-6 px-3 py-2 outline-none data-[highlighted]:bg-shoal cursor-pointer'

/** Who is signed in, and the acts that go with it. */
export function Who({ onFind, onKeys }: { onFind: (() => void) | undefined; onKeys: () => void }) {
  const { actor, severalSchools } = useSchool()
  const [leaving, setLeaving] = useState<'here' | 'everywhere' | 'school'>()
  return (
    <div data-part="who" className="border-b border-l border-b-ink border-l-rule bg-panel">
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="size-full px-4 py-3 text-right">
          <span className="block truncate font-bold">{actor.name}</span>
          <span className="block text-[13px] text-muted">
            {roleWords(actor.roles)} <span aria-hidden>▾</span>
          </span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-30 min-w-56 rounded-[3px] border border-ink bg-panel py-1 shadow-lg"
          >
            {onFind && (
              <DropdownMenu.Item className={item} onSelect={onFind}>
                Find <KeyCap>Ctrl K</KeyCap>
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={item} onSelect={onKeys}>
              Keys on this page <KeyCap>?</KeyCap>
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 border-t border-rule" />
            {severalSchools && (
              <DropdownMenu.Item className={item} onSelect={() => setLeaving('school')}>
                Choose another school
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={item} onSelect={() => window.location.assign('/set-password')}>
              Change password
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => setLeaving('here')}>
              Sign out
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => setLeaving('everywhere')}>
              Sign out on all devices
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {leaving && <SignOut how={leaving} onStay={() => setLeaving(undefined)} />}
    </div>
  )
}
