'use client'
import { Dialog as Radix } from 'radix-ui'
import { useState, type ReactNode } from 'react'

/** Gives the focus back to where it was before a dialog opened, or to where the page's keys are read. */
function focusBack(to: Element | null): void {
  const home =
    document.querySelector<HTMLElement>('[data-focus-home]') ?? document.querySelector<HTMLElement>('main')
  if (to instanceof HTMLElement && to.isConnected && to !== document.body) to.focus({ preventScroll: true })
  else home?.focus({ preventScroll: true })
}

/** A dialog for an act that needs a decision. Without `onClose` it can only be ended by what it holds. */
export function Dialog({
  title,
  description,
  children,
  onClose,
  wide = false,
  covers = false,
}: {
  title: string
  description?: string
  children: ReactNode
  onClose?: () => void
  wide?: boolean
  /** Nothing behind it can be read, other dialogs included. */
  covers?: boolean
}) {
  const [opener] = useState(() => (typeof document === 'undefined' ? null : document.activeElement))
  return (
    <Radix.Root open onOpenChange={(open) => !open && onClose?.()}>
      <Radix.Portal>
        <Radix.Overlay className={`fixed inset-0 ${covers ? 'z-60 bg-paper' : 'z-40 bg-ink/30'}`} />
        <Radix.Content
          className={`fixed top-1/2 left-1/2 ${covers ? 'z-70' : 'z-50'} max-h-[90vh] w-[92vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-[4px] border border-ink bg-paper p-6 shadow-lg ${wide ? 'max-w-3xl' : 'max-w-lg'}`}
          onEscapeKeyDown={(e) => !onClose && e.preventDefault()}
          onPointerDownOutside={(e) => !onClose && e.preventDefault()}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            focusBack(opener)
          }}
          {...(description ? {} : { 'aria-describedby': undefined })}
        >
          <Radix.Title className={`text-[18px] font-bold ${description ? 'mb-1' : 'mb-3'}`}>
            {title}
          </Radix.Title>
          {description && <Radix.Description className="mb-4 text-muted">{description}</Radix.Description>}
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
