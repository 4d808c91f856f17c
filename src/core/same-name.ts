/** The same text for names that are meant to be the same: capitals and blanks around make no difference. */
export const sameName = (name: string): string => name.trim().toLowerCase()
