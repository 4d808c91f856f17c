/** Every worker holds this lock, shared, as long as it lives: whoever counts the holders sees how many there are. */
export const workerLock = { space: 7301, key: 1 } as const
