/** Tags typed in one line, with commas between them. */
export const tagsIn = (text: string): string[] =>
  text
    .split(',')
    .map((tag) => tag.trim())
    .filter((tag) => tag !== '')
