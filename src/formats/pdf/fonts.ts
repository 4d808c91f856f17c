import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { create, type Font } from 'fontkit'

const folder = join(process.cwd(), 'node_modules/@expo-google-fonts')

export type Weight = 'regular' | 'bold'
/** A typeface that lacks one of these has it upright. */
export type Face = Weight | 'italic' | 'boldItalic'

/** Kedge's typeface, and those that take over where it lacks a letter, in this order. */
const families = [
  {
    name: 'main',
    regular: 'atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf',
    bold: 'atkinson-hyperlegible-next/700Bold/AtkinsonHyperlegibleNext_700Bold.ttf',
    italic: 'atkinson-hyperlegible-next/400Regular_Italic/AtkinsonHyperlegibleNext_400Regular_Italic.ttf',
    boldItalic: 'atkinson-hyperlegible-next/700Bold_Italic/AtkinsonHyperlegibleNext_700Bold_Italic.ttf',
  },
  {
    name: 'noto',
    regular: 'noto-sans/400Regular/NotoSans_400Regular.ttf',
    bold: 'noto-sans/700Bold/NotoSans_700Bold.ttf',
    italic: 'noto-sans/400Regular_Italic/NotoSans_400Regular_Italic.ttf',
    boldItalic: 'noto-sans/700Bold_Italic/NotoSans_700Bold_Italic.ttf',
  },
  {
    name: 'math',
    regular: 'noto-sans-math/400Regular/NotoSansMath_400Regular.ttf',
    bold: 'noto-sans-math/400Regular/NotoSansMath_400Regular.ttf',
    italic: 'noto-sans-math/400Regular/NotoSansMath_400Regular.ttf',
    boldItalic: 'noto-sans-math/400Regular/NotoSansMath_400Regular.ttf',
  },
  {
    name: 'symbols',
    regular: 'noto-sans-symbols-2/400Regular/NotoSansSymbols2_400Regular.ttf',
    bold: 'noto-sans-symbols-2/400Regular/NotoSansSymbols2_400Regular.ttf',
    italic: 'noto-sans-symbols-2/400Regular/NotoSansSymbols2_400Regular.ttf',
    boldItalic: 'noto-sans-symbols-2/400Regular/NotoSansSymbols2_400Regular.ttf',
  },
] as const

export type Family = (typeof families)[number]['name']

const files = new Map<string, Buffer>()
const faces = new Map<Family, Font>()

/** Where the file of a font is. */
export const fontPath = (family: Family, face: Face): string =>
  join(folder, families.find((f) => f.name === family)?.[face] ?? '')

/** The bytes of a font, read once. */
export function fontFile(family: Family, weight: Weight): Buffer {
  const path = fontPath(family, weight)
  const known = files.get(path) ?? readFileSync(path)
  files.set(path, known)
  return known
}

function face(family: Family): Font {
  const known = faces.get(family) ?? (create(fontFile(family, 'regular')) as Font)
  faces.set(family, known)
  return known
}

const familyOf = new Map<number, Family | undefined>()

/** The first family that has a character; undefined when none has. Both weights hold the same characters. */
function familyFor(codePoint: number): Family | undefined {
  if (familyOf.has(codePoint)) return familyOf.get(codePoint)
  const family = families.find((f) => face(f.name).hasGlyphForCodePoint(codePoint))?.name
  familyOf.set(codePoint, family)
  return family
}

export interface Run {
  readonly family: Family
  readonly text: string
}

// Letters, digits and punctuation of western Europe, which the main typeface has: most texts are no more.
const plain = /^[\u0020-\u007e\u00a0-\u00ff\u2013\u2014\u2018-\u201d\u2026]*$/
/** Whether the main typeface has every letter of a text, as it nearly always does. */
export const isPlain = (text: string): boolean => plain.test(text)
// Marks join the letter before them; spaces go with whatever is around.
const joins = /^[\p{M}\p{Zs}]$/u

/** Splits one line of text into runs of one typeface each. What no font has is drawn as a box by the main one. */
export function runsOf(text: string): readonly Run[] {
  if (isPlain(text)) return [{ family: 'main', text }]
  const runs: { family: Family; text: string }[] = []
  for (const character of text.normalize('NFC')) {
    const codePoint = character.codePointAt(0) ?? 0
    const last = runs.at(-1)
    const canJoin = last && joins.test(character) && face(last.family).hasGlyphForCodePoint(codePoint)
    const family = canJoin ? last.family : (familyFor(codePoint) ?? 'main')
    if (last?.family === family) last.text += character
    else runs.push({ family, text: character })
  }
  return runs
}

/** The different characters of a text that no shipped font has; line ends aside. */
export function charactersWithoutFont(text: string): string {
  if (isPlain(text)) return ''
  const missing = [...text.normalize('NFC')].filter(
    (character) => !/\s/.test(character) && familyFor(character.codePointAt(0) ?? 0) === undefined,
  )
  return [...new Set(missing)].join(' ')
}
