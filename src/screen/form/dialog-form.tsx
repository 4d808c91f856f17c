'use client'
import type { ReactNode } from 'react'
import type { FieldValues } from 'react-hook-form'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { FormButtons, FormProblems } from './fields'
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
  return (
    <Dialog title={title} description={description} onClose={onClose} wide={wide}>
      <form onSubmit={of.submit} className="grid gap-4" noValidate>
        <FormProblems of={of} />
        {children}
        <FormButtons>
          <Button type="submit" busy={of.busy}>
            {save}
          </Button>
          <Button kind="plain" onClick={onClose}>
            Cancel
          </Button>
          {more}
        </FormButtons>
      </form>
    </Dialog>
  )
}
