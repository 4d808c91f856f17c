import { join } from 'node:path'
import mammoth from 'mammoth'
import pdfmake from 'pdfmake'
import type { TDocumentDefinitions } from 'pdfmake/interfaces'
import { limits } from '@/core/limits'
import { asPicture } from '@/formats/image/picture'
import { fontPath } from '@/formats/pdf/fonts'
import { pageHeight, pageWidth, textWidth, margin } from '@/formats/pdf/paper'
import { leftOut, writeLabels } from './numbering'
import { pagesOf, type Picture } from './to-pages'
import { pack, partBytes, partText, unpack, Unreadable } from './unpack'

export interface DocxText {
  /** Of the few elements that text, lists, tables and pictures need; a picture's source is its place in the list. */
  readonly html: string
  readonly pictures: readonly Picture[]
  /** What could not be taken over: "formulas". */
  readonly leftOut: readonly string[]
}

/**
 * The text, tables and pictures of a word-processor file. Nothing outside of the file is read, and nothing in it is run.
 * @throws Unreadable with what is wrong
 */
export async function readDocx(bytes: Uint8Array): Promise<DocxText> {
  const parts = unpack(bytes)
  const document = partText(parts, 'word/document.xml')
  const [numbering, styles] = [partText(parts, 'word/numbering.xml'), partText(parts, 'word/styles.xml')]
  const pictures: Picture[] = []
  try {
    const labelled = partBytes(writeLabels({ document, numbering, styles }))
    const buffer = Buffer.from(pack({ ...parts, 'word/document.xml': labelled }))
    const { value: html } = await mammoth.convertToHtml(
      { buffer },
      {
        externalFileAccess: false,
        includeEmbeddedStyleMap: false,
        ignoreEmptyParagraphs: false,
        styleMap: ['u => u', 'strike => s'],
        convertImage: mammoth.images.imgElement(async (image) => {
          if (pictures.length >= limits.picturesOfFile) return { src: '' }
          const picture = await asPicture(await image.readAsBuffer())
          if (!picture.ok) return { src: '' }
          pictures.push({
            address: `data:image/jpeg;base64,${picture.bytes.toString('base64')}`,
            width: picture.width,
            height: picture.height,
          })
          return { src: String(pictures.length - 1) }
        }),
      },
    )
    return { html, pictures, leftOut: leftOut(document) }
  } catch {
    // Whatever the reader says of a damaged part, the person can only save the file anew.
    throw new Unreadable(
      'is damaged and cannot be opened. Save it again in the program that made it, or as PDF.',
    )
  }
}

const faces = (family: Parameters<typeof fontPath>[0]) => ({
  normal: fontPath(family, 'regular'),
  bold: fontPath(family, 'bold'),
  italics: fontPath(family, 'italic'),
  bolditalics: fontPath(family, 'boldItalic'),
})

/** Draws what was read as A4 pages. */
export async function drawPages({ html, pictures }: DocxText): Promise<Buffer> {
  const definition: TDocumentDefinitions = {
    pageSize: { width: pageWidth, height: pageHeight },
    pageMargins: margin,
    content: pagesOf(html, pictures, { width: textWidth, height: pageHeight - 2 * margin - 40 }),
    defaultStyle: { font: 'main', fontSize: 11, lineHeight: 1.25 },
  }
  pdfmake.setFonts({
    main: faces('main'),
    noto: faces('noto'),
    math: faces('math'),
    symbols: faces('symbols'),
  })
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path) =>
    path.startsWith(join(process.cwd(), 'node_modules/@expo-google-fonts')),
  )
  return pdfmake.createPdf(definition).getBuffer()
}
