import { memo } from 'react'
import { sessionWords } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import type { Register, RegisterRow } from './use-register'

const shapes = {
  present: { y: 0, height: 14, className: 'fill-past', words: 'present' },
  elsewhere: { y: 0, height: 14, className: 'fill-past', words: 'elsewhere' },
  'not expected': { y: 5, height: 4, className: 'fill-rule', words: 'not expected' },
  late: { y: 7, height: 7, className: 'fill-ochre', words: 'late' },
  'absent with reason': { y: 0, height: 14, className: 'fill-ink', words: 'absent with reason' },
  'absent without reason': {
    y: 0,
    height: 14,
    className: 'fill-panel stroke-ink',
    words: 'absent without reason',
  },
  'no mark': { y: 6, height: 2, className: 'fill-line', words: 'no mark' },
  'not on roll': { y: 0, height: 0, className: '', words: 'not on roll' },
} as const

/** The last twenty sessions as small shapes: full bar absent, hollow bar absent without reason, half bar late. */
export const RecentStrip = memo(function RecentStrip({
  recent,
  sessions,
}: {
  recent: RegisterRow['recent']
  sessions: Register['sessions']
}) {
  const notable = recent
    .map((r, i) => ({ r, s: sessions[i] }))
    .filter(({ r }) => r.meaning !== 'present' && r.meaning !== 'elsewhere' && r.meaning !== 'not on roll')
    .map(
      ({ r, s }) =>
        `${s ? `${shortDate(s.date)} ${sessionWords(s.session)}` : ''} ${r.code ?? shapes[r.meaning].words}`,
    )
  const label = `Last 20 sessions: ${notable.length === 0 ? 'all present' : notable.join('; ')}`
  return (
    <svg
      role="img"
      width={220}
      height={16}
      viewBox="0 0 220 16"
      preserveAspectRatio="none"
      className="block max-w-full"
    >
      <title>{label}</title>
      {recent.map((r, i) => {
        const shape = shapes[r.meaning]
        return (
          shape.height > 0 && (
            <rect
              key={i}
              x={i * 11 + 0.5}
              y={shape.y + 1}
              width={9}
              height={shape.height - (shape.className.includes('stroke') ? 1 : 0)}
              className={shape.className}
            />
          )
        )
      })}
    </svg>
  )
})

const explained = ['present', 'late', 'absent with reason', 'absent without reason', 'no mark'] as const

/** What the shapes of the strip mean. */
export function StripLegend() {
  return (
    <p className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[12px] text-muted max-md:hidden">
      {explained.map((meaning) => {
        const { y, height, className, words } = shapes[meaning]
        return (
          <span key={meaning} className="flex items-center gap-1">
            <svg aria-hidden width={10} height={16}>
              <rect
                x={0.5}
                y={y + 1}
                width={9}
                height={height - (className.includes('stroke') ? 1 : 0)}
                className={className}
              />
            </svg>
            {words}
          </span>
        )
      })}
    </p>
  )
}
