'use client'
import { useState } from 'react'
import { otherMeasure, unreachable } from '@/core/assessment/levels'
import { mostOf } from '@/core/assessment/scoring'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import { LevelMark } from './level-mark'
import type { Key } from './use-key'

const LevelsDialog = later(() => import('./levels-dialog').then((m) => m.LevelsDialog))

/** Where the levels begin, and the way to change them. */
export function LevelsLine({ server, onSaved }: { server: Key; onSaved: () => void }) {
  const [open, setOpen] = useState(false)
  const { levels, questions, mayEdit } = server
  const most = mostOf(questions)
  const empty = unreachable(levels, questions).map((i) => levels[i]?.name)
  return (
    <section className="mt-5">
      <h2 className="mb-1">Levels</h2>
      <p className="flex flex-wrap items-center gap-x-5 gap-y-1">
        {levels.map(({ name, from }, i) => (
          <span key={name}>
            <LevelMark name={name} place={i} of={levels.length} />
            {from && (
              <span className="text-muted">
                {' '}
                from {'percent' in from ? `${from.percent}%` : `${from.points} points`}
                {most > 0 && `, ${otherMeasure(from, most)}`}
              </span>
            )}
          </span>
        ))}
        {mayEdit && (
          <Button kind="plain" onClick={() => setOpen(true)}>
            Change levels
          </Button>
        )}
      </p>
      {most > 0 && empty.length > 0 && (
        <p className="hint mt-2">With these points nobody can reach {empty.join(' or ')}.</p>
      )}
      {open && (
        <LevelsDialog
          server={server}
          onClose={(saved) => {
            setOpen(false)
            if (saved) onSaved()
          }}
        />
      )}
    </section>
  )
}
