import sharp from 'sharp'

const mostPixels = 60_000_000
/** The longer edge of a picture as it is kept, in pixels: a page of A4 at 240 dots an inch. */
const edge = 2800

/** Kinds of picture, told by their first bytes; nothing else is handed to the decoder. */
export const isPicture = (bytes: Buffer): boolean =>
  bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])) ||
  bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) ||
  (bytes.subarray(0, 4).toString('latin1') === 'RIFF' && bytes.subarray(8, 12).toString('latin1') === 'WEBP')

/** What is wrong with a picture stands after its file's name. */
interface Wrong {
  readonly ok: false
  readonly problem: string
}

export const notReadable: Wrong = {
  ok: false,
  problem: 'cannot be read as a picture. Save it again as JPEG and try once more.',
}

/** How large a picture is, as people see it; nothing is decoded yet. */
export async function measurePicture(
  bytes: Buffer,
): Promise<Wrong | { readonly ok: true; readonly width: number; readonly height: number }> {
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
    return w < 1 || h < 1 ? notReadable : { ok: true, width: w, height: h }
  } catch {
    // Cut short or damaged: whatever the decoder says, the person can only send another one.
    return notReadable
  }
}

/** A picture read upright; what its file says beside it, such as the place, is left out. */
export const upright = (bytes: Buffer): sharp.Sharp => sharp(bytes, { limitInputPixels: mostPixels }).rotate()

/** A picture upright on white and no larger than a printed page needs, as JPEG. */
export async function asPicture(
  bytes: Buffer,
): Promise<
  Wrong | { readonly ok: true; readonly bytes: Buffer; readonly width: number; readonly height: number }
> {
  const measured = await measurePicture(bytes)
  if (!measured.ok) return measured
  try {
    const { data, info } = await upright(bytes)
      .resize(edge, edge, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 85 })
      .toBuffer({ resolveWithObject: true })
    return { ok: true, bytes: data, width: info.width, height: info.height }
  } catch {
    return notReadable
  }
}
