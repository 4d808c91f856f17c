/** Gives the browser a file to save under a name. */
export function saveFile(content: Blob, fileName: string): void {
  const address = URL.createObjectURL(content)
  const link = Object.assign(document.createElement('a'), { href: address, download: fileName })
  link.click()
  setTimeout(() => URL.revokeObjectURL(address), 60_000)
}
