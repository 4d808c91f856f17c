import { NotHere } from '@/screen/not-here'

/** A page of the school that is not there; the rail stays around it. */
export default function NotFound() {
  return (
    <div className="sheet grid max-w-xl justify-items-start gap-4">
      <NotHere />
    </div>
  )
}
