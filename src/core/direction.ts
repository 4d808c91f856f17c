/** Marks that turn the direction of a text around, so that a name would take what stands beside it along. */
const turning = /[\u202a-\u202e\u2066-\u2069]/g

/** A text without marks of direction; letters have theirs by themselves. */
export const withoutDirection = (text: string): string => text.replace(turning, '')
