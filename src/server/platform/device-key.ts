import { createHmac } from 'node:crypto'
import { config } from './config'

/**
 * The key that seals what a device keeps of an account's unsaved edits: always the same one, so that they can be read
 * again after the next sign-in, and given to signed-in pages alone.
 * @returns 32 bytes as hexadecimal digits
 */
export const deviceKeyOf = (accountId: string): string =>
  createHmac('sha256', config().KEDGE_SECRET).update(`unsaved edits of ${accountId}`).digest('hex')
