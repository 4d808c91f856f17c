'use client'
import { useEffect, useRef, useState, type ReactNode } from 'react'
import type { FieldValues } from 'react-hook-form'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { FormButtons, FormProblems } from './fields'
import { useClosing } from './use-closing'
import type { CommandForm } from './use-command-form'

/** A form in a dialog: its fields, what stopped it, Save and Cancel. */
export function DialogForm<V extends FieldValues>({
  of,
  title,
  description,
  save = 'Save',
  wide = false,
  onClose,
  more,
  children,
}: {
  of: CommandForm<V>
  title: string
  description?: string
  save?: string
  wide?: boolean
  onClose: () => void
  /** Rarer acts, after Cancel. */
  more?: ReactNode
  children: ReactNode
}) {
  // A dialog is of what it was opened for, whatever the page behind it shows by now.
  const [opened] = useState(title)
  const closing = useClosing({ isTyped: of.isTyped, busy: of.busy && !of.waits, onClose })
  return (
    <Dialog title={opened} description={description} onClose={closing.close} wide={wide}>
      <form method="post" onSubmit={of.submit} className="grid gap-4" noValidate>
        <FormProblems of={of} />
        <fieldset disabled={of.waits} className="contents">
          {children}
        </fieldset>
        {closing.asks ? (
          <Discard onDiscard={onClose} onGoOn={closing.goOn} />
        ) : (
          <FormButtons>
            <Button type="submit" busy={of.busy}>
              {save}
            </Button>
            <Button kind="plain" disabled={of.busy && !of.waits} onClick={closing.close}>
              Cancel
            </Button>
            {more}
          </FormButtons>
        )}
      </form>
    </Dialog>
  )
}

/** Asks, in place of the buttons of a form, whether what was typed is to be given up. */
export function Discard({ onDiscard, onGoOn }: { onDiscard: () => void; onGoOn: () => void }) {
  const goOn = useRef<HTMLButtonElement>(null)
  useEffect(() => goOn.current?.focus(), [])
  return (
    <div
      className="hint flex flex-wrap items-center gap-3"
      role="alertdialog"
      aria-label="Discard what you typed?"
    >
      <span className="flex-1 basis-40">Discard what you typed?</span>
      <Button kind="plain" onClick={onDiscard}>
        Discard
      </Button>
      <Button ref={goOn} onClick={onGoOn}>
        Keep editing
      </Button>
    </div>
  )
}
