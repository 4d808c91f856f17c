/** How far a register is, by more than colour. */
export function RegisterState({ marked, onRoll }: { marked: number; onRoll: number }) {
  if (marked >= onRoll)
    return (
      <span className="text-starboard">
        <span aria-hidden>✓ </span>complete
      </span>
    )
  if (marked === 0)
    return (
      <span>
        <span aria-hidden>○ </span>not started
      </span>
    )
  return (
    <span className="font-bold text-ochre">
      <span aria-hidden>◐ </span>
      {onRoll - marked} not marked
    </span>
  )
}
