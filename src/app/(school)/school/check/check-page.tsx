'use client'
import { momentWords } from '@/core/calendar/moment-words'
import { limits } from '@/core/limits'
import { useSchool } from '@/screen/school-context'
import { Message, useMessage } from '@/screen/message'
import { PageHead } from '@/screen/page-head'
import { sendCommand } from '@/screen/server'
import { useLive } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { useState } from 'react'

/** What must always hold in the data, and what was found that does not. */
export function CheckPage({ initial }: { initial: QueryOutput<'check.last'> }) {
  const { timeZone } = useSchool()
  const [last, refresh] = useLive('check.last', {}, initial)
  const { message, say, warn } = useMessage()
  const [busy, setBusy] = useState(false)
  const broken = last?.found.filter(({ which }) => which.length > 0) ?? []
  async function checkNow() {
    setBusy(true)
    const result = await sendCommand('check.now', {})
    setBusy(false)
    if (!result.ok) return warn(result.failure.message)
    await refresh()
    say('Checked.')
  }
  return (
    <div className="sheet">
      <PageHead
        title="Data check"
        detail={
          last
            ? `Checked ${momentWords(timeZone)(last.checkedAt)}, and again every night`
            : 'Checked every night'
        }
        act={
          <Button busy={busy} onClick={() => void checkNow()}>
            Check now
          </Button>
        }
      />
      <Message {...message} />
      {!last ? (
        <p>Nothing has been checked yet. Kedge checks in the night that comes, or at once with Check now.</p>
      ) : (
        <>
          <p className="mb-3">
            {broken.length === 0
              ? `All ${last.found.length} rules hold.`
              : `${broken.length} of ${last.found.length} rules are broken. What is named below was saved in a way that Kedge should not allow: please tell whoever runs Kedge for you.`}
          </p>
          <table className="rows" aria-label="Rules">
            <thead>
              <tr>
                <th scope="col">Rule</th>
                <th scope="col">Result</th>
              </tr>
            </thead>
            <tbody>
              {[...broken, ...last.found.filter(({ which }) => which.length === 0)].map(({ rule, which }) => (
                <tr key={rule}>
                  <th scope="row" className="font-normal">
                    {rule}
                  </th>
                  <td className="wrap-anywhere">
                    {which.length === 0 ? (
                      'holds'
                    ) : (
                      <>
                        <strong>broken</strong>: {which.join('; ')}
                        {which.length === limits.foundBroken && ' and more'}
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  )
}
