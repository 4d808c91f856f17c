'use client'
import { useEffect, useRef, useState } from 'react'
import { kindOf } from '@/core/assessment/kinds'
import { levelOf } from '@/core/assessment/levels'
import { countedPoints, keyPoints, mostOf, totalOf, type Counted } from '@/core/assessment/scoring'
import { hundredths } from '@/core/marks/rational'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { ChoiceGroup } from '@/ui/choice-group'
import { PageHead } from '@/screen/page-head'
import { AnswerSheet } from '@/screen/sheet/answer-sheet'
import type { Answer } from '@/screen/sheet/answer-field'
import { useLive } from '@/screen/use-live'
import { assessmentPages, givenTo } from '@/app/(school)/assessments/[assessmentId]/assessment-pages'
import { LevelMark } from '@/app/(school)/assessments/[assessmentId]/level-mark'

type Key = QueryOutput<'assessment.key'>

/** Below this width, in CSS pixels, nothing is made smaller: buttons could not be hit any more. */
const leastRoom = 640

/** Screens that students sit tests at, in CSS pixels. */
const screens = {
  'Laptop, 1366 × 768': [1366, 768],
  'Tablet, 1024 × 768': [1024, 768],
  'Tablet upright, 768 × 1024': [768, 1024],
  'Phone, 390 × 844': [390, 844],
} as const
type Screen = keyof typeof screens

/** The test as students see it, at the size of their screen; it can be answered, and says what that comes to. */
export function PreviewPage({ initial }: { initial: Key }) {
  const [server] = useLive('assessment.key', { assessmentId: initial.id }, initial)
  const [screen, setScreen] = useState<Screen>('Laptop, 1366 × 768')
  const [answers, setAnswers] = useState<ReadonlyMap<string, Answer>>(new Map())
  const [handedIn, setHandedIn] = useState(false)
  const { questions, levels } = server
  const counted = new Map(
    questions.flatMap((q): [string, Counted][] => {
      const value = answers.get(q.id) ?? undefined
      return value === undefined ? [] : [[q.id, { value, points: keyPoints(q, value) }]]
    }),
  )
  const { points, unmarked } = totalOf(questions, counted)
  const most = mostOf(questions)
  const [width, height] = screens[screen]
  const level = levelOf(points, most, levels)
  return (
    <div className="sheet">
      <PageHead
        title={server.name}
        page="Preview"
        pages={assessmentPages(server)}
        detail={givenTo(server)}
        act={
          (answers.size > 0 || handedIn) && (
            <Button
              kind="plain"
              onClick={() => {
                setAnswers(new Map())
                setHandedIn(false)
              }}
            >
              Start over
            </Button>
          )
        }
      />
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <ChoiceGroup
          label="Screen"
          choices={Object.keys(screens) as Screen[]}
          value={screen}
          onChange={(next) => next && setScreen(next)}
        />
        <span className="text-[13px] text-muted">Nothing you answer here is kept.</span>
      </div>
      <Framed width={width} height={height}>
        <AnswerSheet
          key={screen}
          name={server.name}
          document={
            server.documentId === null
              ? undefined
              : { address: `/api/documents/${server.documentId}`, name: server.document ?? server.name }
          }
          questions={questions}
          answers={answers}
          handedIn={handedIn}
          onAnswer={(id, answer) => setAnswers(new Map(answers).set(id, answer))}
          onHandIn={() => setHandedIn(true)}
          result={
            handedIn && (
              <p role="status" className="hint mb-3">
                <strong>
                  {points / 100} of {most / 100} points
                </strong>
                {', '}
                <LevelMark name={levels[level]?.name ?? ''} place={level} of={levels.length} />
                {unmarked > 0 &&
                  `. ${unmarked === 1 ? '1 answer is' : `${unmarked} answers are`} marked by hand or without a key, so this is not final`}
                .
              </p>
            )
          }
          remarkOn={(id) => {
            const q = questions.find((one) => one.id === id)
            if (!handedIn || !q) return null
            return <Remark question={q} counted={counted.get(id)} />
          }}
        />
      </Framed>
    </div>
  )
}

/** How a question was answered, what its key is, and why. */
function Remark({
  question: q,
  counted,
}: {
  question: Key['questions'][number]
  counted: Counted | undefined
}) {
  const kind = kindOf(q.kind)
  const earned = countedPoints(q, counted)
  const full = hundredths(q.points)
  const chosen = typeof counted?.value === 'string' ? q.choiceRationales[counted.value] : undefined
  const waits = counted !== undefined && counted.points === undefined && q.counts === 'keyed'
  return (
    <div className="mt-2 text-[13px]">
      <p className={earned === full ? 'text-starboard' : waits ? 'text-muted' : 'text-port'}>
        <span aria-hidden>{earned === full ? '✓ ' : waits ? '' : '▲ '}</span>
        {waits
          ? kind.byHand
            ? 'Marked by hand.'
            : 'There is no key yet.'
          : `${earned / 100} of ${full / 100} ${full === 100 ? 'point' : 'points'}`}
        {kind.isKeyed(q.content) && !kind.byHand && `; key ${kind.showKey(q.content)}`}
      </p>
      {chosen && <p>{chosen}</p>}
      {q.rationale && <p>{q.rationale}</p>}
    </div>
  )
}

/** Something drawn at its own size, made smaller until it fits; where that would be too small, it is scrolled. */
function Framed({ width, height, children }: { width: number; height: number; children: React.ReactNode }) {
  const outer = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState(width)
  useEffect(() => {
    const target = outer.current
    if (!target) return
    const seen = new ResizeObserver(([entry]) => entry && setRoom(entry.contentRect.width))
    seen.observe(target)
    return () => seen.disconnect()
  }, [])
  const scale = room < leastRoom ? 1 : Math.min(1, (room - 4) / width)
  return (
    <div ref={outer} className="overflow-auto">
      <div
        className="overflow-hidden rounded-[6px] border-2 border-ink"
        style={{ width: width * scale + 4, height: height * scale + 4 }}
      >
        <div style={{ width, height, transform: `scale(${scale})`, transformOrigin: '0 0' }}>{children}</div>
      </div>
    </div>
  )
}
