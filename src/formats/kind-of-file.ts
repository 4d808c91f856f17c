/** Files that a test can be made from, told by their first bytes and not by their names. */
export const testTypes = {
  pdf: 'application/pdf',
  jpeg: 'image/jpeg',
  png: 'image/png',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
} as const
export type TestType = (typeof testTypes)[keyof typeof testTypes]

const begins = (bytes: Uint8Array, ...with_: number[]) => with_.every((byte, i) => bytes[i] === byte)

/** What kind of file bytes are; undefined where it is none that a test can be made from. */
export function kindOfFile(
  bytes: Uint8Array,
): keyof typeof testTypes | 'older text' | 'phone picture' | undefined {
  if (new TextDecoder('latin1').decode(bytes.subarray(0, 1024)).includes('%PDF-')) return 'pdf'
  if (begins(bytes, 0xff, 0xd8, 0xff)) return 'jpeg'
  if (begins(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png'
  if (begins(bytes, 0x50, 0x4b, 0x03, 0x04)) return 'docx'
  if (begins(bytes, 0xd0, 0xcf, 0x11, 0xe0)) return 'older text'
  if (new TextDecoder('latin1').decode(bytes.subarray(4, 12)).startsWith('ftyphei')) return 'phone picture'
  return undefined
}
