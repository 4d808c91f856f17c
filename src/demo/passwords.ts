/** The password of everyone in the demo who has chosen one, and the one the office handed out. */
export const demoPasswords = { chosen: 'harbour lights at dusk', initial: 'tide table 1' } as const
