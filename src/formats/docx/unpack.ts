import { unzipSync, zipSync, type Unzipped } from 'fflate'
import { limits } from '@/core/limits'

/** Why a file cannot be taken over; reads on after its name: "is not a …". */
export class Unreadable extends Error {}

/** The parts of a word-processor file that are read. Macros, embedded programs and settings are not among them. */
const read = /^(\[Content_Types\]\.xml|_rels\/\.rels|word\/([\w-]+\.xml|_rels\/[\w.-]+\.rels|media\/[^/]+))$/

const damaged = 'is damaged and cannot be opened. Save it again in the program that made it, or as PDF.'

/** Unpacks the parts that a reader asks for; each only into as much room as its entry says. */
function open(bytes: Uint8Array, wants: boolean): Unzipped {
  let size = 0
  let entries = 0
  let hasText = false
  try {
    const parts = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (++entries > limits.partsOfFile)
          throw new Unreadable('has too many parts. Save it as PDF and choose that.')
        if (!read.test(name)) return false
        hasText ||= name === 'word/document.xml'
        size += originalSize
        if (size > limits.unpacked)
          throw new Unreadable('is too large once it is unpacked. Save it as PDF and choose that.')
        return wants
      },
    })
    if (!hasText) throw new Unreadable('is not a word-processor file (DOCX). Save it as DOCX or as PDF.')
    return parts
  } catch (error) {
    throw error instanceof Unreadable ? error : new Unreadable(damaged)
  }
}

/**
 * Looks through the list of a word-processor file's parts, without unpacking any.
 * @throws Unreadable when it is none, is damaged, or holds more than a file of its kind would
 */
export const checkParts = (bytes: Uint8Array): void => void open(bytes, false)

/**
 * The parts of a word-processor file (Office Open XML, ISO/IEC 29500) that hold its text and pictures.
 * @throws Unreadable as `checkParts` does
 */
export const unpack = (bytes: Uint8Array): Unzipped => open(bytes, true)

/** The parts as a file again, without what was left out. */
export const pack = (parts: Unzipped): Uint8Array => zipSync(parts, { level: 0 })

const text = new TextDecoder('utf-8')
/** A part as text; empty without. */
export const partText = (parts: Unzipped, name: string): string =>
  text.decode(parts[name] ?? new Uint8Array())
export const partBytes = (words: string) => new TextEncoder().encode(words)
