import { useState, type CSSProperties } from 'react'

/** The field in which a date is typed over the year line. */
export function TypedDate({
  begun,
  style,
  onTyped,
  onClose,
}: {
  /** What was typed to open it. */
  begun: string
  style: CSSProperties
  /** Answers whether there is such a day. */
  onTyped: (text: string) => boolean
  onClose: () => void
}) {
  const [text, setText] = useState(begun)
  const [wrong, setWrong] = useState(false)
  return (
    <form
      method="post"
      className="absolute top-[15px] z-10 flex"
      style={style}
      onSubmit={(e) => {
        e.preventDefault()
        setWrong(!onTyped(text))
      }}
    >
      <input
        autoFocus
        aria-label="Date, for example 20 Nov"
        aria-invalid={wrong || undefined}
        value={text}
        onChange={(e) => {
          setText(e.target.value)
          setWrong(false)
        }}
        onKeyDown={(e) => e.key === 'Escape' && onClose()}
        onBlur={onClose}
        className="w-32 border-2 border-magenta bg-panel px-1 aria-invalid:border-port"
      />
      {wrong && (
        <span role="alert" className="bg-panel px-2 text-port">
          No such day in this year
        </span>
      )}
    </form>
  )
}
