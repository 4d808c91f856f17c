import { NotFoundPage } from '@/screen/not-found-page'

/** An address that leads nowhere, outside a school's pages. */
export default function NoPage() {
  return (
    <main className="sheet reading grid justify-items-start gap-4">
      <NotFoundPage />
    </main>
  )
}
