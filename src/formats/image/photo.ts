import { measurePicture, notReadable, upright } from './picture'

/** Which part of a picture to keep, in percent of its width and height as it is shown upright. */
export interface Crop {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Edge of a photo as it is kept, in pixels. */
const edge = 480

export type Photo =
  { readonly ok: true; readonly bytes: Buffer } | { readonly ok: false; readonly problem: string }

/**
 * A picture cut, turned upright and made smaller. What a camera notes beside it, such as the place, is left out.
 * @param crop as people saw it; the middle square without
 * @returns a square JPEG, or what is wrong, to stand after the file's name
 */
export async function makePhoto(bytes: Buffer, crop?: Crop): Promise<Photo> {
  const measured = await measurePicture(bytes)
  if (!measured.ok) return measured
  try {
    const image = upright(bytes)
    if (crop) image.extract(pixels(crop, measured.width, measured.height))
    const made = await image
      .resize(edge, edge, { fit: 'cover', withoutEnlargement: false })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 82 })
      .toBuffer()
    return { ok: true, bytes: made }
  } catch {
    // Cut short or damaged: whatever the decoder says, the person can only send another one.
    return notReadable
  }
}

function pixels(crop: Crop, width: number, height: number) {
  const within = (value: number, most: number) => Math.min(Math.max(0, Math.round(value)), most)
  const left = within((crop.x / 100) * width, width - 1)
  const top = within((crop.y / 100) * height, height - 1)
  return {
    left,
    top,
    width: Math.max(1, within((crop.width / 100) * width, width - left)),
    height: Math.max(1, within((crop.height / 100) * height, height - top)),
  }
}
