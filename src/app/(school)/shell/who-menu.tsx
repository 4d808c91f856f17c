'use client'
import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { KeyCap } from '@/ui/button'
import { later } from '@/screen/later'
import { useSchool } from '@/screen/school-context'
import { whoButton, WhoWords, type WhoProps } from './who-button'

const OwnAddress = later(() => import('./own-address').then((m) => m.OwnAddress))
const OwnSessions = later(() => import('./own-sessions').then((m) => m.OwnSessions))
const SignOut = later(() => import('./sign-out').then((m) => m.SignOut))

const item = 'flex justify-between gap-6 px-3 py-2 outline-none data-[highlighted]:bg-shoal cursor-pointer'

/** The acts that go with who is signed in; opens with the first use of its button. */
export function WhoMenu({ onFind, onKeys }: WhoProps) {
  const { severalSchools } = useSchool()
  const [leaving, setLeaving] = useState<'here' | 'everywhere' | 'school'>()
  const [open, setOpen] = useState<'address' | 'sessions'>()
  const close = () => setOpen(undefined)
  return (
    <>
      <DropdownMenu.Root modal={false} defaultOpen>
        <DropdownMenu.Trigger className={whoButton}>
          <WhoWords />
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
            <DropdownMenu.Item className={item} onSelect={() => setOpen('address')}>
              E-mail address
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => setOpen('sessions')}>
              Where you are signed in
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => window.location.assign('/set-password')}>
              Change password
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => setLeaving('here')}>
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {open === 'address' && <OwnAddress onClose={close} />}
      {open === 'sessions' && (
        <OwnSessions
          onClose={close}
          onEverywhere={() => {
            close()
            setLeaving('everywhere')
          }}
        />
      )}
      {leaving && <SignOut how={leaving} onStay={() => setLeaving(undefined)} />}
    </>
  )
}
