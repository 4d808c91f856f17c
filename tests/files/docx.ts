import { strToU8, zipSync, type Zippable } from 'fflate'

// Word-processor files made from nothing, as small as they can be.

const main = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml'
const relation = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
const spaces = `xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:r="${relation}"
  xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"
  xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture" xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math"`

/** A paragraph; of a list where one is named, at a level. */
export const paragraph = (
  words: string,
  { list, level = 0, look = '' }: { list?: number; level?: number; look?: string } = {},
) =>
  `<w:p><w:pPr>${list === undefined ? '' : `<w:numPr><w:ilvl w:val="${level}"/><w:numId w:val="${list}"/></w:numPr>`}</w:pPr>` +
  `<w:r><w:rPr>${look}</w:rPr><w:t xml:space="preserve">${words}</w:t></w:r></w:p>`

/** A table of texts. */
export const table = (rows: readonly (readonly string[])[]) =>
  `<w:tbl>${rows.map((row) => `<w:tr>${row.map((cell) => `<w:tc>${paragraph(cell)}</w:tc>`).join('')}</w:tr>`).join('')}</w:tbl>`

/** A picture, by the id of its relation: embedded, or somewhere else. */
export const picture = (id: string, how: 'embed' | 'link' = 'embed') =>
  `<w:p><w:r><w:drawing><wp:inline><a:graphic><a:graphicData><pic:pic><pic:blipFill><a:blip r:${how}="${id}"/></pic:blipFill></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r></w:p>`

const level = (at: number, format: string, text: string) =>
  `<w:lvl w:ilvl="${at}"><w:start w:val="1"/><w:numFmt w:val="${format}"/><w:lvlText w:val="${text}"/></w:lvl>`

/** Questions with numbers, and their choices with letters below: the list 1. */
const numbering = `<w:numbering ${spaces}><w:abstractNum w:abstractNumId="0">${level(0, 'decimal', '%1.')}${level(1, 'upperLetter', '%2)')}</w:abstractNum>
  <w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num></w:numbering>`

/** A file with a body, pictures by name, and whatever else is to be in it. */
export function docx(
  body: string,
  {
    pictures = {},
    links = {},
    more = {},
  }: {
    readonly pictures?: Readonly<Record<string, Uint8Array>>
    /** Addresses outside of the file, by the id of their relation. */
    readonly links?: Readonly<Record<string, string>>
    readonly more?: Zippable
  } = {},
): Uint8Array {
  const relations = [
    ...Object.keys(pictures).map(
      (name, i) => `<Relationship Id="p${i + 1}" Type="${relation}/image" Target="media/${name}"/>`,
    ),
    ...Object.entries(links).map(
      ([id, to]) =>
        `<Relationship Id="${id}" Type="${relation}/image" Target="${to}" TargetMode="External"/>`,
    ),
    `<Relationship Id="n1" Type="${relation}/numbering" Target="numbering.xml"/>`,
  ]
  return zipSync({
    '[Content_Types].xml': strToU8(
      `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="png" ContentType="image/png"/><Default Extension="jpg" ContentType="image/jpeg"/><Override PartName="/word/document.xml" ContentType="${main}"/></Types>`,
    ),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="d" Type="${relation}/officeDocument" Target="word/document.xml"/></Relationships>`,
    ),
    'word/document.xml': strToU8(`<w:document ${spaces}><w:body>${body}</w:body></w:document>`),
    'word/numbering.xml': strToU8(numbering),
    'word/_rels/document.xml.rels': strToU8(
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${relations.join('')}</Relationships>`,
    ),
    ...Object.fromEntries(Object.entries(pictures).map(([name, bytes]) => [`word/media/${name}`, bytes])),
    ...more,
  })
}
