'use client'
import { DropdownMenu } from 'radix-ui'
import { buttonLooks } from './button'

export interface MenuItem {
  readonly label: string
  readonly onSelect: () => void
}

/** Rare acts behind one button. */
export function Menu({ label, items }: { label: string; items: readonly MenuItem[] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={buttonLooks('plain')}>
        {label}
        <span aria-hidden className="ml-1">
          ▾
        </span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-30 min-w-48 rounded-[3px] border border-ink bg-panel py-1 shadow-lg"
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.label}
              className="cursor-pointer px-3 py-1 data-[highlighted]:bg-shoal pointer-coarse:py-3"
              onSelect={item.onSelect}
            >
              {item.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
