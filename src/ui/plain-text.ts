// What a person pastes from a PDF or another program without seeing it: control characters, halves of
// characters, and marks that turn the direction of what follows around.
// Line breaks and tabs stay; a field of one line has none anyway.
const unwanted =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u202a-\u202e\u2066-\u2069]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g

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
