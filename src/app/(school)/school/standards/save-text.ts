/** Saves a text as a file, as a download of the browser. */
export function saveText(fileName: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'application/json' }))
  const link = Object.assign(document.createElement('a'), { href: address, download: fileName })
  link.click()
  URL.revokeObjectURL(address)
}
