import type { ComponentProps, ReactNode } from 'react'

type Kind = 'primary' | 'plain' | 'quiet'

const looks: Readonly<Record<Kind, string>> = {
  primary: 'bg-ink text-panel border-ink not-disabled:hover:bg-ink/90 font-bold',
  plain: 'bg-panel text-ink border-line not-disabled:hover:border-ink',
  quiet:
    'bg-transparent text-ink border-transparent underline decoration-line underline-offset-3 not-disabled:hover:decoration-magenta px-1',
}

/** How a button looks; for a link that leads to the next act, too. */
export function buttonLooks(kind: Kind = 'primary'): string {
  return `act inline-flex min-h-8 items-center rounded-[3px] border px-3 py-1 disabled:opacity-55 pointer-coarse:min-h-11 ${looks[kind]}`
}

/** A key as it is shown beside the act it does. */
export function KeyCap({ children }: { children: ReactNode }) {
  return (
    <kbd className="ml-2 inline-block min-w-[18px] rounded-[2px] border border-line bg-panel px-1 text-center text-[11px] font-normal text-ink">
      {children}
    </kbd>
  )
}

/** A button with its word, and its key where it has one. `busy` shows that the act is under way and stops a second click. */
export function Button({
  kind = 'primary',
  busy = false,
  keyCap,
  children,
  className = '',
  disabled,
  type = 'button',
  ...rest
}: ComponentProps<'button'> & { kind?: Kind; busy?: boolean; keyCap?: string }) {
  return (
    <button
      type={type}
      aria-busy={busy}
      disabled={disabled === true || busy}
      className={`${buttonLooks(kind)} ${className}`}
      {...rest}
    >
      {children}
      {keyCap && <KeyCap>{keyCap}</KeyCap>}
    </button>
  )
}
