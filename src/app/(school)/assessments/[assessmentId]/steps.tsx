import Link from '@/screen/link'

const steps = [
  ['key', 'Key', ''],
  ['answers', 'Answers', '/answers'],
  ['findings', 'Findings', '/findings'],
] as const

/** The three pages of an assessment, in the order of the work. */
export function Steps({ assessmentId, at }: { assessmentId: string; at: (typeof steps)[number][0] }) {
  return (
    <nav aria-label="Pages of this assessment" className="mt-2 no-print">
      <ol className="flex gap-5">
        {steps.map(([name, label, path], i) => (
          <li key={name}>
            {name === at ? (
              <strong aria-current="page" className="border-b-2 border-magenta pb-[2px]">
                {i + 1} {label}
              </strong>
            ) : (
              <Link className="link" href={`/assessments/${assessmentId}${path}`}>
                {i + 1} {label}
              </Link>
            )}
          </li>
        ))}
      </ol>
    </nav>
  )
}
