import { weekdayName } from '@/core/calendar/date-words'
import { Problem, Tick } from '@/ui/field'

/** Which days of the week are school days. */
export function WeekdayTicks({
  chosen,
  problem,
  onChange,
}: {
  chosen: readonly number[]
  problem: string | undefined
  onChange: (weekdays: number[]) => void
}) {
  return (
    <fieldset>
      <legend className="text-[13px] font-bold">School days</legend>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex flex-wrap gap-x-5">
        {[1, 2, 3, 4, 5, 6, 7].map((day) => (
          <Tick
            key={day}
            label={weekdayName(day)}
            checked={chosen.includes(day)}
            onChange={(e) =>
              onChange(e.target.checked ? [...chosen, day].sort() : chosen.filter((d) => d !== day))
            }
          />
        ))}
      </div>
    </fieldset>
  )
}
