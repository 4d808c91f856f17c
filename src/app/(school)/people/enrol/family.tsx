'use client'
import { useState } from 'react'
import { useWatch } from 'react-hook-form'
import { limits } from '@/core/limits'
import { proposedClasses } from '@/core/people/proposed-classes'
import type { CommandForm } from '@/screen/form/use-command-form'
import { StudentPicker, type PickedStudent } from '@/screen/student-picker'
import { useAnswer } from '@/screen/use-live'
import { Button } from '@/ui/button'
import { guardianValues, type EnrolValues, type Offer } from './values'

/**
 * A second child takes over what a brother or sister has, each part by choice: the guardians (the same records, so that
 * nobody is on record twice), the address, and the homeroom with its classes.
 */
export function Family({ of, offer }: { of: CommandForm<EnrolValues>; offer: Offer }) {
  const { form } = of
  const [address, homeroomId, siblingId] = useWatch({
    control: form.control,
    name: ['address', 'homeroomId', 'siblingId'],
  })
  const [picked, setPicked] = useState<PickedStudent>()
  // What was typed before the page was left names the brother or sister, too.
  const studentId = picked?.id ?? siblingId
  const { answer: family } = useAnswer('people.familyOf', studentId ? { studentId } : undefined)

  const giveBack = () => {
    form.setValue('siblingId', null)
    form.setValue('guardian', guardianValues())
    form.setValue('guardians', [])
  }
  const takeGuardians = (id: string, [first, ...more]: NonNullable<typeof family>['guardians']) => {
    const options = { shouldDirty: true }
    form.setValue('siblingId', id, options)
    form.setValue('guardian', guardianValues(first), options)
    form.setValue('guardians', more.slice(0, limits.guardiansAtOnce).map(guardianValues), options)
    form.clearErrors(['guardian', 'guardians'])
  }
  const takeHomeroom = (id: string, yearGroupId: string) => {
    form.setValue('yearGroupId', yearGroupId, { shouldDirty: true })
    form.setValue('homeroomId', id, { shouldDirty: true })
    form.setValue('classIds', proposedClasses(offer, id))
    form.clearErrors(['yearGroupId', 'homeroomId', 'classIds'])
  }
  const homeroom = offer.homerooms.find((h) => h.id === family?.homeroomId)
  const guardians = family?.guardians ?? []
  const names = guardians.map((g) => `${g.givenName} ${g.familyName}`).join(' and ')
  const isTaken = siblingId !== null && siblingId === studentId
  return (
    <div className="grid gap-2">
      <StudentPicker
        label="Brother or sister at the school"
        need="optional"
        value={picked}
        onChange={(next) => {
          if (siblingId) giveBack()
          setPicked(next)
        }}
      />
      {studentId && family && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2" role="group" aria-label="Take over">
          {isTaken ? (
            <Button kind="plain" onClick={giveBack}>
              Enter other guardians
            </Button>
          ) : (
            guardians.length > 0 && (
              <Button kind="plain" onClick={() => takeGuardians(studentId, guardians)}>
                Take over {names}
              </Button>
            )
          )}
          {family.address && family.address !== address && (
            <Button
              kind="plain"
              onClick={() => form.setValue('address', family.address ?? '', { shouldDirty: true })}
            >
              Take over the address
            </Button>
          )}
          {homeroom && homeroom.id !== homeroomId && (
            <Button kind="plain" onClick={() => takeHomeroom(homeroom.id, homeroom.yearGroupId)}>
              Same homeroom, {homeroom.name}
            </Button>
          )}
          {isTaken && (
            <span role="status" className="text-muted">
              Guardians of {family.name}: {names}
            </span>
          )}
        </div>
      )}
    </div>
  )
}
