'use client'
import { DropdownMenu } from 'radix-ui'
import type { Counts } from '@/core/assessment/scoring'

const ways: readonly (readonly [Counts, string])[] = [
  ['keyed', 'Score with the key'],
  ['dropped', 'Drop for all: nobody gets its points'],
  ['given', 'Give to all: everybody gets its points'],
]

const item =
  'cursor-pointer px-3 py-1 data-[disabled]:opacity-40 data-[highlighted]:bg-shoal pointer-coarse:py-3'

/** What is done rarely to a question: move it by a place, copy it, drop it for all, give it to all. */
export function QuestionMenu({
  position,
  counts,
  isFirst,
  isLast,
  onMove,
  onCopy,
  onRationale,
  onCount,
}: {
  position: number
  counts: Counts
  isFirst: boolean
  isLast: boolean
  onMove: (by: 1 | -1) => void
  onCopy: () => void
  onRationale: () => void
  onCount: (counts: Counts) => void
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`More for question ${position}`}
        className="size-6 pointer-coarse:size-11"
      >
        ⋯
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-50 rounded-[3px] border border-ink bg-panel py-1 shadow-lg"
        >
          <DropdownMenu.Item className={item} disabled={isFirst} onSelect={() => onMove(-1)}>
            Move up
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={isLast} onSelect={() => onMove(1)}>
            Move down
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onCopy}>
            Copy below
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={onRationale}>
            Rationale
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          <DropdownMenu.RadioGroup value={counts} onValueChange={(next) => onCount(next as Counts)}>
            {ways.map(([value, words]) => (
              <DropdownMenu.RadioItem key={value} value={value} className={item}>
                <span aria-hidden className="inline-block w-5">
                  {counts === value ? '✓' : ''}
                </span>
                {words}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
