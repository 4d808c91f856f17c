'use client'
import { useAnswer } from '@/screen/use-live'

/** "2 registers and 1 assignment", or nothing. */
function touchedWords(touched: Readonly<Record<string, number>>): string {
  const parts = Object.entries(touched).flatMap(([what, n]) =>
    n > 0 ? [n === 1 ? `1 ${what.replace(/s$/, '')}` : `${n} ${what}`] : [],
  )
  return parts.length > 1 ? `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}` : (parts[0] ?? '')
}

/** Says what already lies on days that stop being school days. */
export function Touched({ firstDay, lastDay, where }: { firstDay: string; lastDay: string; where: string }) {
  const { answer } = useAnswer('setUp.touchedBy', { firstDay, lastDay }, { after: 200 })
  const words = answer && touchedWords(answer)
  if (!words) return null
  return (
    <p className="hint mt-1">
      {where} there {/^1 \S+$/.test(words) ? 'is' : 'are'} already {words}. They stay as they are, but these
      days do not count as school days any more.
    </p>
  )
}
