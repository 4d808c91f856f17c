'use client'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import type { Student } from './record'

/** The student's photo, for those who may see it; a way to add one for those who may. */
export function Photo({ s, onOpen }: { s: Student; onOpen: () => void }) {
  if (!s.photoId)
    return s.mayChange ? (
      <p className="mb-2 no-print">
        <Button kind="quiet" className="-ml-3" onClick={onOpen}>
          Add a photo
        </Button>
      </p>
    ) : null
  return (
    <div className="mb-3 flex items-end gap-3">
      {/* Asked for with the person's rights each time, so it is not made smaller or kept by the framework. */}
      <img
        src={`/api/photo?id=${s.photoId}`}
        alt={`Photo of ${spokenName(s.fields.sortName ?? '')}`}
        width={120}
        height={120}
        className="border border-line"
      />
      {s.mayChange && (
        <Button kind="quiet" className="no-print" onClick={onOpen}>
          Change<span className="sr-only"> the photo</span>
        </Button>
      )}
    </div>
  )
}
