import sharp from 'sharp'

/** Which part of a picture to keep, in percent of its width and height as it is shown upright. */
export interface Crop {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

const mostPixels = 60_000_000
/** Edge of a photo as it is kept, in pixels. */
const edge = 480

export type Photo =
  { readonly ok: true; readonly bytes: Buffer } | { readonly ok: false; readonly problem: string }

/** Kinds of picture, told by their first bytes; nothing else is handed to the decoder. */
const isPicture = (bytes: Buffer) =>
  bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])) ||
  bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) ||
  (bytes.subarray(0, 4).toString('latin1') === 'RIFF' && bytes.subarray(8, 12).toString('latin1') === 'WEBP')

const notReadable = {
  ok: false,
  problem: 'cannot be read as a picture. Save it again as JPEG and try once more.',
} as const

/**
 * A picture cut, turned upright and made smaller. What a camera notes beside it, such as the place, is left out.
 * @param crop as people saw it; the middle square without
 * @returns a square JPEG, or what is wrong, to stand after the file's name
 */
export async function makePhoto(bytes: Buffer, crop?: Crop): Promise<Photo> {
  if (!isPicture(bytes)) return { ok: false, problem: 'is not a JPEG, PNG or WebP picture.' }
  try {
    const {
      width = 0,
      height = 0,
      orientation = 1,
    } = await sharp(bytes, { limitInputPixels: false }).metadata()
    if (width * height > mostPixels)
      return {
        ok: false,
        problem: `has ${Math.round((width * height) / 1e6)} megapixels; the limit is ${mostPixels / 1e6}. Make it smaller first.`,
      }
    const [w, h] = orientation >= 5 ? [height, width] : [width, height]
    if (w < 1 || h < 1) return notReadable
    const image = sharp(bytes, { limitInputPixels: mostPixels }).rotate()
    if (crop) image.extract(pixels(crop, w, h))
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
