'use client'
import { Problem } from '@/ui/field'
import { ClassTicks } from '@/screen/class-ticks'

/** The classes of a form, one tick each. */
export function ClassChoice({
  classes,
  chosen,
  problem,
  none,
  onChange,
}: {
  classes: readonly { readonly id: string; readonly name: string }[]
  chosen: readonly string[]
  problem: string | undefined
  /** What is said where there are none. */
  none: string
  onChange: (classIds: string[]) => void
}) {
  return (
    <fieldset>
      <legend className="text-[13px] font-bold">Classes</legend>
      {problem && <Problem>{problem}</Problem>}
      {classes.length === 0 && <p>{none}</p>}
      <div className="flex flex-wrap gap-x-6">
        <ClassTicks classes={classes} chosen={chosen} onChange={onChange} />
      </div>
    </fieldset>
  )
}
