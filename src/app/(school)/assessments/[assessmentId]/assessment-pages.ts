import type { PageOf } from '@/screen/page-head'

/** The pages of an assessment, in the order of the work. */
export function assessmentPages(assessmentId: string): readonly PageOf[] {
  return [
    { name: 'Answer key', href: `/assessments/${assessmentId}` },
    { name: 'Answers', href: `/assessments/${assessmentId}/answers` },
    { name: 'Findings', href: `/assessments/${assessmentId}/findings` },
  ]
}
