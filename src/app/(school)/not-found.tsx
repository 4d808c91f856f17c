import { NotFoundPage } from '@/screen/not-found-page'

/** A page of the school that does not exist; the rail stays around it. */
export default function NotFound() {
  return (
    <div className="sheet reading grid justify-items-start gap-4">
      <NotFoundPage />
    </div>
  )
}
