'use client'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { tellServer } from '@/screen/server'

const words = {
  waiting: 'queued',
  running: 'in progress',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
} as const

/** The person's background work: its progress and its result. It continues when the page is closed. */
export function WorkList({
  jobs,
  refresh,
}: {
  jobs: QueryOutput<'work.list'>
  refresh: () => Promise<void>
}) {
  if (jobs.length === 0) return null
  return (
    <section aria-labelledby="work-heading">
      <h2 id="work-heading" className="mb-1">
        Prints and releases
      </h2>
      <p className="mb-2 text-[13px] text-muted">These continue when you leave the page.</p>
      <ul>
        {jobs.map((job) => (
          <li
            key={job.id}
            className="flex min-h-9 flex-wrap items-center gap-3 border-t border-rule py-1"
            data-job={job.state}
          >
            <span className="min-w-64 font-bold">{job.title}</span>
            {job.state === 'running' ? (
              <span className="flex items-center gap-2" role="status">
                <progress
                  max={Math.max(1, job.total)}
                  value={job.done}
                  aria-label={job.title}
                  className="w-40"
                />
                {job.done} of {job.total}
              </span>
            ) : (
              <span role="status" className={job.state === 'failed' ? 'text-port' : 'text-muted'}>
                {words[job.state]}
                {job.message && `: ${job.message}`}
              </span>
            )}
            <span className="ml-auto flex gap-2">
              {job.documentId && (
                <a
                  className="link self-center"
                  href={`/api/documents/${job.documentId}`}
                  target="_blank"
                  rel="noreferrer"
                >
                  Open the PDF
                </a>
              )}
              {(job.state === 'running' || job.state === 'waiting') && (
                <Button
                  kind="plain"
                  onClick={() => void tellServer('work.cancel', { jobId: job.id }).then(refresh)}
                >
                  Cancel<span className="sr-only"> {job.title}</span>
                </Button>
              )}
              {(job.state === 'failed' || job.state === 'cancelled') && (
                <Button
                  kind="plain"
                  onClick={() => void tellServer('work.retry', { jobId: job.id }).then(refresh)}
                >
                  Try again<span className="sr-only">: {job.title}</span>
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
