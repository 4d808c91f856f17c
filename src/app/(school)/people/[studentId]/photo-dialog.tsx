'use client'
import { useEffect, useId, useRef, useState } from 'react'
import Cropper, { type Area } from 'react-easy-crop'
import 'react-easy-crop/react-easy-crop.css'
import { useRemoval } from '@/screen/form/dialog-act'
import { newKey, sendPhoto, sendCommand } from '@/screen/server'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import type { Student } from './record'

const whole: Area = { x: 0, y: 0, width: 100, height: 100 }

/** A file that was chosen, with an address under which the page can show it. */
function useChosen() {
  const [chosen, setChosen] = useState<{ file: File; url: string }>()
  useEffect(() => () => (chosen ? URL.revokeObjectURL(chosen.url) : undefined), [chosen])
  return [
    chosen,
    (file: File | undefined) => setChosen(file && { file, url: URL.createObjectURL(file) }),
  ] as const
}

/** Chooses a picture and the square of it to keep; the server cuts it and makes it small. */
export function PhotoDialog({
  s,
  onClose,
  onSaved,
}: {
  s: Student
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const id = useId()
  const [chosen, choose] = useChosen()
  const [crop, setCrop] = useState({ x: 0, y: 0 })
  const [zoom, setZoom] = useState(1)
  const [area, setArea] = useState(whole)
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  const sent = useRef({ text: '', key: '' })
  const removal = useRemoval(
    (key) => sendCommand('people.removePhoto', { studentId: s.id, expectedPhotoId: s.photoId }, key),
    (run) => onSaved('The photo was removed.', run),
  )
  async function save() {
    if (!chosen) return
    const text = JSON.stringify([chosen.url, area])
    if (sent.current.text !== text) sent.current = { text, key: newKey() }
    setBusy(true)
    setProblem(undefined)
    const of = { studentId: s.id, expectedPhotoId: s.photoId }
    const result = await sendPhoto(chosen.file, of, area, sent.current.key)
    setBusy(false)
    if (result.ok) return onSaved('The photo was saved.', result.run)
    setProblem(result.failure.message)
  }
  return (
    <Dialog
      title="Photo"
      description="JPEG, PNG or WebP. Seen by those who see the student’s details."
      onClose={onClose}
    >
      <div className="grid gap-4">
        {(problem ?? removal.problem) && <Problem>{problem ?? removal.problem}</Problem>}
        <div className="grid gap-1">
          <label htmlFor={id} className="text-[13px] font-bold">
            Picture
          </label>
          <input
            id={id}
            type="file"
            accept="image/jpeg,image/png,image/webp"
            onChange={(e) => {
              choose(e.target.files?.[0])
              setZoom(1)
              setCrop({ x: 0, y: 0 })
              setArea(whole)
              setProblem(undefined)
            }}
          />
        </div>
        {chosen && (
          <>
            <div className="relative h-72 bg-ink/10">
              <Cropper
                image={chosen.url}
                aspect={1}
                crop={crop}
                zoom={zoom}
                onCropChange={setCrop}
                onZoomChange={setZoom}
                onCropComplete={(percent) => setArea(percent)}
                disableAutomaticStylesInjection
                cropperProps={{
                  role: 'group',
                  'aria-label': 'The square to keep; move it with the arrow keys',
                }}
                mediaProps={{ alt: 'The picture that was chosen' }}
              />
            </div>
            <label className="flex items-center gap-3">
              <span className="text-[13px] font-bold">Size</span>
              <input
                type="range"
                className="w-full accent-ink"
                min={1}
                max={4}
                step={0.05}
                value={zoom}
                onChange={(e) => setZoom(Number(e.target.value))}
              />
            </label>
          </>
        )}
        <p className="flex gap-3">
          <Button busy={busy} disabled={!chosen} onClick={() => void save()}>
            Save
          </Button>
          <Button kind="plain" onClick={onClose}>
            Cancel
          </Button>
          {s.photoId && (
            <Button kind="quiet" className="ml-auto" busy={removal.busy} onClick={() => void removal.run()}>
              Remove
            </Button>
          )}
        </p>
      </div>
    </Dialog>
  )
}
