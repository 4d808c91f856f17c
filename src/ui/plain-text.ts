// What a person pastes from a PDF or another program without seeing it: control characters, and halves of characters.
// Line breaks and tabs stay; a field of one line has none anyway.
const unwanted =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g

/** A text without characters that cannot be seen or stored. */
export function plainText(text: string): string {
  return text.replace(unwanted, '')
}

/** Takes such characters out of a field as they are typed or pasted, before anything else reads it. */
export function keepPlain(event: { currentTarget: HTMLInputElement | HTMLTextAreaElement }): void {
  const field = event.currentTarget
  if (field.type === 'file') return
  const plain = plainText(field.value)
  if (plain !== field.value) field.value = plain
}
