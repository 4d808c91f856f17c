'use client'
import { DropdownMenu } from 'radix-ui'
import { KeyCap } from '@/ui/button'
import { useSchool } from '@/screen/school-context'
import { roleWords } from '@/screen/role-words'
import { tellServer } from '@/screen/server'

const item = 'flex justify-between gap-6 px-3 py-2 outline-none data-[highlighted]:bg-shoal cursor-pointer'

async function leave(everywhere: boolean) {
  if (everywhere) {
    const ended = await tellServer('account.signOutEverywhere', {})
    if (!ended.ok) return window.alert(ended.failure.message)
  }
  await fetch('/api/sign-out', { method: 'POST' }).catch(() => undefined)
  window.location.assign('/sign-in')
}

/** Who is signed in, and the acts that go with it. */
export function Who({ onFind, onKeys }: { onFind: () => void; onKeys: () => void }) {
  const { actor, places, severalSchools } = useSchool()
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
            {places.some((place) => place.href === '/today') && (
              <DropdownMenu.Item className={item} onSelect={onFind}>
                Find <KeyCap>Ctrl K</KeyCap>
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={item} onSelect={onKeys}>
              Keys on this page <KeyCap>?</KeyCap>
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 border-t border-rule" />
            {severalSchools && (
              <DropdownMenu.Item className={item} onSelect={() => window.location.assign('/choose-school')}>
                Choose another school
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={item} onSelect={() => window.location.assign('/set-password')}>
              Change password
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void leave(false)}>
              Sign out
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void leave(true)}>
              Sign out on all devices
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  )
}
