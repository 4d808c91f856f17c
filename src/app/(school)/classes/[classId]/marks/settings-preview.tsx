'use client'
import { spokenName } from '@/core/people/names'
import { useAnswer } from '@/screen/use-live'
import type { CommandInput } from '@/server/registry'

const most = 12

/** Whose term marks would change, and from what to what, while the settings are being chosen. */
export function SettingsPreview({ input }: { input: CommandInput<'marks.saveSettings'> }) {
  const { answer, problem, asking } = useAnswer('marks.settingsPreview', input, { after: 400, keep: true })
  if (problem)
    return <p className="text-[13px] text-muted">Which marks change is shown once all fields are right.</p>
  if (!answer)
    return (
      <p role="status" className="text-[13px] text-muted">
        Working out which marks change
      </p>
    )
  const set = answer.filter((c) => !c.isNew)
  return (
    <section aria-busy={asking} aria-label="Marks that change" className={asking ? 'opacity-60' : ''}>
      <h3 className="text-[13px] font-bold">Marks that change</h3>
      {set.length === 0 && <p>None: these gradebooks are only being set up.</p>}
      <ul className="grid gap-1">
        {set.map((c) => (
          <li key={c.classId}>
            {c.changes.length === 0 ? (
              <>
                {c.name}: none of {c.students}
              </>
            ) : (
              <details>
                <summary className="min-h-7 cursor-pointer py-1 pointer-coarse:min-h-11">
                  {c.name}: <strong>{c.changes.length}</strong> of {c.students}
                </summary>
                <ul className="ml-4 columns-2 gap-6 text-[13px] max-sm:columns-1">
                  {c.changes.slice(0, most).map((m) => (
                    <li key={m.studentId}>
                      {spokenName(m.name)}: {m.before ?? 'no mark'} to <strong>{m.after ?? 'no mark'}</strong>
                    </li>
                  ))}
                  {c.changes.length > most && <li>and {c.changes.length - most} more</li>}
                </ul>
              </details>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
