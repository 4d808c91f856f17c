/**
 * Breaks text into lines no wider than a width, at spaces and line ends; a word too wide for a line is broken
 * within. Widths of words are looked up, since a school's comments use the same ones again and again.
 * @param widthOf width of a text in the font it will be drawn in
 */
export function wrap(text: string, width: number, widthOf: (text: string) => number): readonly string[] {
  return text.split(/\r?\n/).flatMap((paragraph) => {
    const lines: string[] = []
    let line = ''
    let used = 0
    for (const word of paragraph.split(/\s+/).flatMap((w) => breakLong(w, width, widthOf))) {
      const wide = widthOf(word)
      const with_ = line === '' ? wide : used + widthOf(' ') + wide
      if (line !== '' && with_ > width) {
        lines.push(line)
        line = word
        used = wide
      } else {
        line = line === '' ? word : `${line} ${word}`
        used = with_
      }
    }
    return [...lines, line]
  })
}

function breakLong(word: string, width: number, widthOf: (text: string) => number): readonly string[] {
  if (widthOf(word) <= width) return [word]
  const parts: string[] = []
  let part = ''
  for (const letter of word) {
    if (part !== '' && widthOf(part + letter) > width) {
      parts.push(part)
      part = ''
    }
    part += letter
  }
  return [...parts, part]
}
