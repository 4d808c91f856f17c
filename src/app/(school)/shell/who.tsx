'use client'
import { useState } from 'react'
import { later, useFetchSoon } from '@/screen/later'
import { whoButton, WhoWords, type WhoProps } from './who-button'

function Opening() {
  return (
    <button type="button" className={whoButton} aria-haspopup="menu" aria-expanded="true">
      <WhoWords />
    </button>
  )
}

const WhoMenu = later<WhoProps>(() => import('./who-menu').then((m) => m.WhoMenu), { meanwhile: Opening })

/** Who is signed in, and the acts that go with it; their menu is fetched apart from the page. */
export function Who(props: WhoProps) {
  const [used, setUsed] = useState(false)
  useFetchSoon(true, WhoMenu)
  return (
    <div data-part="who" className="border-b border-l border-b-ink border-l-rule bg-panel">
      {used ? (
        <WhoMenu {...props} />
      ) : (
        <button
          type="button"
          className={whoButton}
          aria-haspopup="menu"
          aria-expanded="false"
          onClick={() => setUsed(true)}
          onKeyDown={(e) => {
            if (e.key !== 'ArrowDown') return
            e.preventDefault()
            setUsed(true)
          }}
        >
          <WhoWords />
        </button>
      )}
    </div>
  )
}
