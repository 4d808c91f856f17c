'use client'
import { registerKinds, registerKindWords, type RegisterKind } from '@/core/calendar/registers'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Shown } from './timetable'

interface Values {
  registers: RegisterKind[]
}

/** Which registers each year group takes. */
export function RegistersDialog({
  groups,
  onClose,
  onSaved,
}: {
  groups: Shown['yearGroups']
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const changes = (v: Values) =>
    groups.flatMap((g, i) => {
      const registers = v.registers[i] ?? g.registers
      return registers === g.registers ? [] : [{ yearGroupId: g.id, expectedVersion: g.version, registers }]
    })
  const of = useCommandForm('year.setRegisters', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.registersInput),
    values: { registers: groups.map((g) => g.registers) } as Values,
    edited: { version: 0 },
    places: [],
    input: (v: Values) => ({ groups: changes(v) }),
    // As where what a colleague has saved is what one wanted.
    nothing: { is: (v) => changes(v).length === 0, end: onClose },
    onSaved: (_, __, run) => onSaved('The registers of the year groups were saved.', run),
  })
  return (
    <DialogForm of={of} title="Registers of year groups" save="Save" onClose={onClose}>
      <p>
        Marks that were entered stay, whatever is chosen. Figures of half-days and of lessons are counted
        separately.
      </p>
      <Theirs
        of={of}
        name="registers"
        label="the registers"
        words={(theirs) =>
          groups.map((g, i) => `${g.name}: ${registerKindWords[theirs[i] ?? g.registers]}`).join('; ')
        }
      />
      <div className="grid gap-3 sm:grid-cols-2">
        {groups.map((g, i) => (
          <FormSelect key={g.id} of={of} name={`registers.${i}`} label={g.name}>
            {registerKinds.map((kind) => (
              <option key={kind} value={kind}>
                {registerKindWords[kind]}
              </option>
            ))}
          </FormSelect>
        ))}
      </div>
    </DialogForm>
  )
}
