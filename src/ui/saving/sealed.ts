import { xchacha20poly1305 } from '@noble/ciphers/chacha.js'
import { bytesToHex, bytesToUtf8, hexToBytes, managedNonce, utf8ToBytes } from '@noble/ciphers/utils.js'

/** Keeps texts on a device so that only whoever has the key reads them. */
export interface Sealer {
  readonly seal: (text: string) => string
  /** The text, or undefined when it was not sealed with this key or was changed since. */
  readonly open: (sealed: string) => string | undefined
}

/**
 * Seals with XChaCha20-Poly1305 and a new nonce each time. The key is given to signed-in pages alone and is kept
 * nowhere on the device: whoever uses the computer next finds nothing they can read. In one go, since a page that is
 * being closed waits for nothing.
 * @param key 32 bytes as hexadecimal digits
 */
export function sealer(key: string): Sealer {
  const cipher = managedNonce(xchacha20poly1305)(hexToBytes(key))
  return {
    seal: (text) => bytesToHex(cipher.encrypt(utf8ToBytes(text))),
    open: (sealed) => {
      try {
        return bytesToUtf8(cipher.decrypt(hexToBytes(sealed)))
      } catch {
        // Another key, or damaged: to this person there is nothing.
        return undefined
      }
    },
  }
}
