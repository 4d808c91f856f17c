'use client'
import { Popover } from 'radix-ui'
import type { RefObject } from 'react'
import { isAlive } from '@/core/work'
import { useWork } from './work'
import { WorkList } from './work-list'

/** The person's background work that was neither fetched nor dismissed. */
export function WorkPopover({
  button,
  onClose,
}: {
  button: RefObject<HTMLButtonElement | null>
  onClose: () => void
}) {
  const { all } = useWork()
  const shown = all.filter((work) => isAlive(work) || work.dismissedAt === null)
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={button as RefObject<HTMLButtonElement>} />
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          aria-label="Background work"
          // The button closes it by itself.
          onInteractOutside={(e) => button.current?.contains(e.target as Node) && e.preventDefault()}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            button.current?.focus()
          }}
          className="z-40 max-h-[70vh] w-[32rem] max-w-[94vw] overflow-auto rounded-[4px] border border-ink bg-panel p-4 shadow-lg"
        >
          {shown.length === 0 ? (
            <p>Nothing is in progress.</p>
          ) : (
            <>
              <p className="mb-2 text-[13px] text-muted">This continues when you leave the page.</p>
              <WorkList work={shown} />
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
