'use client'
import type { FieldValues, Path } from 'react-hook-form'
import { useWatch } from 'react-hook-form'
import { initialWords } from '@/core/people/accounts'
import { checkPassword } from '@/core/people/password-rule'
import { FormText } from '@/screen/form/fields'
import type { CommandForm } from '@/screen/form/use-command-form'

/** A password made here, to be handed out. */
export const newInitialPassword = (): string =>
  initialWords((below) => (crypto.getRandomValues(new Uint32Array(1))[0] ?? 0) % below)

/** The initial password of an account: one is made; another can be typed. The rule stands beside it. */
export function InitialPassword<V extends FieldValues & { password: string }>({
  of,
  own,
}: {
  of: CommandForm<V>
  own: readonly string[]
}) {
  const password = useWatch({ control: of.form.control, name: 'password' as Path<V> }) as string
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      <FormText
        of={of}
        name={'password' as Path<V>}
        label="Initial password"
        autoComplete="off"
        spellCheck={false}
      />
      <ul aria-label="Rule for passwords" className="grid content-end gap-1 text-[12px]">
        {checkPassword(password, own).map((check) => (
          <li key={check.text} className={check.met ? 'text-starboard' : 'text-port'}>
            <span aria-hidden>{check.met ? '✓ ' : '○ '}</span>
            <span className="sr-only">{check.met ? 'Met: ' : 'Not met yet: '}</span>
            {check.text}
          </li>
        ))}
      </ul>
    </div>
  )
}
