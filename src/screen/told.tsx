/** What an act has done, or why it could not be done, above the work; keeps its line free while there is nothing to tell. */
export function Told({ text, wrong = false }: { text: string; wrong?: boolean }) {
  return (
    <p
      role={wrong ? 'alert' : 'status'}
      className={`min-h-5 text-[13px] ${wrong ? 'text-port' : 'text-muted'}`}
      data-testid="told"
    >
      {wrong && <span aria-hidden>▲ </span>}
      {text}
    </p>
  )
}
