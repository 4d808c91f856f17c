'use client'
import { useState } from 'react'
import { limits } from '@/core/limits'
import { sameValue } from '@/core/same'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, TextArea } from '@/ui/field'
import { Discard } from '@/screen/form/dialog-form'
import { FormButtons } from '@/screen/form/fields'
import { useClosing } from '@/screen/form/use-closing'
import type { Question } from './use-key'

/** Why the right answer is right, and what each choice shows of whoever takes it; for reading results and reteaching. */
export function RationaleDialog({
  question,
  position,
  onSave,
  onClose,
}: {
  question: Question
  position: number
  onSave: (part: Pick<Question, 'rationale' | 'choiceRationales'>) => void
  onClose: () => void
}) {
  const [words, setWords] = useState(question.rationale ?? '')
  const [ofChoices, setOfChoices] = useState(question.choiceRationales ?? {})
  const isTyped =
    words !== (question.rationale ?? '') || !sameValue(ofChoices, question.choiceRationales ?? {})
  const closing = useClosing({ isTyped, busy: false, onClose })
  const choices = 'choices' in question.content ? question.content.choices : []
  return (
    <Dialog title={`Rationale of question ${position}`} onClose={closing.close}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          const kept = Object.entries(ofChoices).filter(([, text]) => text.trim() !== '')
          onSave({ rationale: words.trim() || null, choiceRationales: Object.fromEntries(kept) })
          onClose()
        }}
      >
        <Field label="Why the answer is right">
          {(field) => (
            <TextArea
              {...field}
              rows={3}
              maxLength={limits.remark}
              value={words}
              onChange={(e) => setWords(e.target.value)}
              autoFocus
            />
          )}
        </Field>
        {choices.map((choice) => (
          <Field key={choice} label={`Choice ${choice}: what it shows`}>
            {(field) => (
              <TextArea
                {...field}
                rows={1}
                maxLength={limits.remark}
                value={ofChoices[choice] ?? ''}
                onChange={(e) => setOfChoices({ ...ofChoices, [choice]: e.target.value })}
              />
            )}
          </Field>
        ))}
        {closing.asks ? (
          <Discard onDiscard={onClose} onGoOn={closing.goOn} />
        ) : (
          <FormButtons>
            <Button type="submit">Save</Button>
            <Button kind="plain" onClick={closing.close}>
              Cancel
            </Button>
          </FormButtons>
        )}
      </form>
    </Dialog>
  )
}
