/** Names typed one per line or separated by commas. */
export const lines = (text: string): string[] =>
  text
    .split(/[\n,]+/)
    .map((t) => t.trim())
    .filter(Boolean)
