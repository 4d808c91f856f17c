'use client'
import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { useState } from 'react'
import { kindOf, kinds, newQuestion, type KindName } from '@/core/assessment/kinds'
import { Select, TextInput } from '@/ui/field'
import { KeyField } from './key-fields/key-field'
import { TypedField } from './key-fields/typed-field'
import { later } from '@/screen/later'
import { QuestionMenu } from './question-menu'
import { StandardTags } from './standard-tags'
import type { Key, Question } from './use-key'

const RationaleDialog = later(() => import('./rationale-dialog').then((m) => m.RationaleDialog))

const asPoints = (text: string) => {
  const points = text.trim().replace(',', '.')
  return /^\d{1,4}(\.\d{1,2})?$/.test(points) ? points : undefined
}

const told: Readonly<Record<Question['counts'], string>> = {
  keyed: '',
  dropped: 'dropped for all',
  given: 'given to all',
}

/** How many choices a question has, for one that is made of it. */
export const choicesOf = (question: Question | undefined): number =>
  question && 'choices' in question.content ? question.content.choices.length : 4

interface Props {
  readonly question: Question
  readonly position: number
  readonly of: number
  readonly standards: Key['knownStandards']
  readonly mayEdit: boolean
  readonly pages: number
  readonly onChange: (part: Partial<Question>, words: string) => void
  readonly onPage: (page: number | null) => void
  readonly onMove: (by: 1 | -1) => void
  readonly onCopy: () => void
  readonly onRemove: () => void
  readonly onShow: (page: number) => void
  /** Draws its place on the document; undefined while it is not being drawn. */
  readonly onDraw: () => void
  readonly isDrawn: boolean
}

/** One question: kind, key, points, learning standards, page of the document. */
export function QuestionRow({
  question: q,
  position,
  of,
  standards,
  mayEdit,
  pages,
  onChange,
  onPage,
  onMove,
  onCopy,
  onRemove,
  onShow,
  onDraw,
  isDrawn,
}: Props) {
  const [explaining, setExplaining] = useState(false)
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: q.id })
  const order = 'size-6 disabled:opacity-30 pointer-coarse:size-11'
  return (
    <tr
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform) ?? '', transition: transition ?? '' }}
      className={isDragging ? 'relative z-10 bg-shoal-light' : ''}
      onFocus={() => q.page && onShow(q.page)}
    >
      <th scope="row" className="text-right whitespace-nowrap">
        {mayEdit && (
          <button
            type="button"
            {...attributes}
            {...listeners}
            aria-roledescription="question to move"
            aria-label={`Move question ${position}`}
            className="mr-1 size-6 cursor-grab touch-none text-muted pointer-coarse:size-11"
          >
            ⠿
          </button>
        )}
        {position}
        {(q.rationale || Object.keys(q.choiceRationales ?? {}).length > 0) && (
          <span className="sr-only">, with a rationale</span>
        )}
      </th>
      <td>
        <Select
          aria-label={`Kind of question ${position}`}
          disabled={!mayEdit}
          className="min-h-6! w-[120px]! py-0! pr-0! pl-1! text-[13px]"
          value={q.kind}
          onChange={(e) => {
            const kind = e.target.value as KindName
            onChange(newQuestion(kind, choicesOf(q)), kindOf(kind).words.toLowerCase())
          }}
        >
          {kinds.map((kind) => (
            <option key={kind.name} value={kind.name}>
              {kind.words}
            </option>
          ))}
        </Select>
      </td>
      <td>
        <KeyField asked={q} position={position} disabled={!mayEdit} onChange={onChange} />
      </td>
      <td>
        <TypedField
          label={`Points of question ${position}`}
          inputMode="decimal"
          disabled={!mayEdit}
          className="w-12! px-1! text-right"
          value={q.points}
          check={asPoints}
          onChange={(points) => onChange({ points }, `${points} points`)}
        />
        {q.counts !== 'keyed' && (
          <span className="block text-[12px] whitespace-nowrap">{told[q.counts]}</span>
        )}
      </td>
      <td>
        <StandardTags
          position={position}
          standards={standards}
          chosen={q.standardIds}
          disabled={!mayEdit}
          onChange={(standardIds) => onChange({ standardIds }, 'learning standards')}
        />
      </td>
      {pages > 0 && (
        <td className="whitespace-nowrap">
          <TextInput
            aria-label={`Page of question ${position}`}
            type="number"
            min={1}
            max={pages}
            disabled={!mayEdit}
            className="min-h-6! w-9! py-0! pr-0! pl-1! text-right"
            value={q.page ?? ''}
            onChange={(e) => {
              const page = e.target.value ? Math.min(pages, Math.max(1, Number(e.target.value))) : null
              onPage(page)
              if (page) onShow(page)
            }}
          />
          {mayEdit && (
            <button
              type="button"
              aria-pressed={isDrawn}
              aria-label={`Draw the place of question ${position} on the document`}
              className={`inline-flex size-6 items-center justify-center border align-middle pointer-coarse:size-11 ${
                isDrawn
                  ? 'border-magenta bg-magenta text-panel'
                  : q.box
                    ? 'border-ink'
                    : 'border-dashed border-line'
              }`}
              onClick={onDraw}
            >
              <span aria-hidden>{q.box ? '▣' : '▢'}</span>
            </button>
          )}
        </td>
      )}
      {mayEdit && (
        <td className="whitespace-nowrap">
          <button
            type="button"
            className={order}
            disabled={of === 1}
            onClick={onRemove}
            aria-label={`Remove question ${position}`}
          >
            ×
          </button>
          <QuestionMenu
            position={position}
            counts={q.counts}
            isFirst={position === 1}
            isLast={position === of}
            onMove={onMove}
            onCopy={onCopy}
            onRationale={() => setExplaining(true)}
            onCount={(counts) => onChange({ counts }, told[counts] || 'scored with the key')}
          />
          {explaining && (
            <RationaleDialog
              question={q}
              position={position}
              onSave={(part) => onChange(part as Partial<Question>, 'rationale')}
              onClose={() => setExplaining(false)}
            />
          )}
        </td>
      )}
    </tr>
  )
}
