import sharp from 'sharp'
import { makePhoto } from './photo'

const picture = (width: number, height: number, format: 'jpeg' | 'png' | 'webp' = 'jpeg') =>
  sharp({ create: { width, height, channels: 3, background: '#336699' } })
    .toFormat(format)
    .toBuffer()
const good = async (bytes: Buffer, crop?: Parameters<typeof makePhoto>[1]) => {
  const made = await makePhoto(bytes, crop)
  if (!made.ok) throw new Error(made.problem)
  return made.bytes
}

test.each(['jpeg', 'png', 'webp'] as const)('a %s becomes a square JPEG of one size', async (format) => {
  const { width, height, format: kept } = await sharp(await good(await picture(900, 600, format))).metadata()
  expect({ width, height, kept }).toEqual({ width: 480, height: 480, kept: 'jpeg' })
})

test('the part that was chosen is kept, of the picture as it is seen upright', async () => {
  const half = await sharp({ create: { width: 400, height: 200, channels: 3, background: '#ff0000' } })
    .composite([
      {
        input: await sharp({ create: { width: 200, height: 200, channels: 3, background: '#0000ff' } })
          .png()
          .toBuffer(),
        left: 200,
        top: 0,
      },
    ])
    .jpeg()
    .withMetadata({ orientation: 6 })
    .toBuffer()
  // Turned by a quarter, the right half is at the bottom.
  const made = await good(half, { x: 0, y: 50, width: 100, height: 50 })
  const { channels } = await sharp(made).stats()
  expect(Math.round(channels[2]?.mean ?? 0)).toBeGreaterThan(240)
  expect(Math.round(channels[0]?.mean ?? 0)).toBeLessThan(15)
})

test('what the camera notes beside the picture is left out', async () => {
  const noted = await sharp(await picture(300, 300))
    .withExif({ IFD0: { Copyright: 'Somebody' }, IFD3: { GPSLatitudeRef: 'N' } })
    .toBuffer()
  expect((await sharp(noted).metadata()).exif).toBeDefined()
  expect((await sharp(await good(noted)).metadata()).exif).toBeUndefined()
})

test.each([
  [
    'a drawing with a script',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'),
  ],
  ['a PDF', Buffer.from('%PDF-1.7\n')],
  ['nothing', Buffer.alloc(0)],
])('%s is refused', async (_, bytes) => {
  expect(await makePhoto(bytes)).toEqual({ ok: false, problem: 'is not a JPEG, PNG or WebP picture.' })
})

test('a picture cut short is refused, and so is one too large to be unpacked', async () => {
  const whole = await picture(300, 300)
  expect(await makePhoto(whole.subarray(0, 200))).toMatchObject({ ok: false })
  const large = await picture(10000, 8000, 'png')
  expect(await makePhoto(large)).toEqual({
    ok: false,
    problem: 'has 80 megapixels; the limit is 60. Make it smaller first.',
  })
})

test('a part outside the picture is brought inside', async () => {
  expect(
    (await good(await picture(100, 100), { x: 90, y: 90, width: 400, height: 400 })).length,
  ).toBeGreaterThan(0)
})
