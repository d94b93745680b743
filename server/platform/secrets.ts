import { createCipheriv, createDecipheriv, createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { config, keyFor } from './config'
import { Problem } from '#core/problems'

const algorithm = 'aes-256-gcm'
const nonceBytes = 12
const tagBytes = 16

/**
 * Encrypts a secret for storage: nonce, tag, ciphertext (AES-256-GCM, NIST SP 800-38D).
 * @param use what the secret is for: sealed with it, it opens for nothing else
 */
export function seal(secret: string, use: string, key = config().keys.sealing): Buffer {
  const nonce = randomBytes(nonceBytes)
  const cipher = createCipheriv(algorithm, key, nonce).setAAD(Buffer.from(use))
  const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed])
}

/** Opens what `seal` made for the same use; throws a Problem when key or use is another one. */
export function unseal(sealed: Buffer, use: string, key = config().keys.sealing): string {
  // Sealed before purposes had keys of their own: with the bare key, for any use.
  const opened = open(sealed, Buffer.from(use), key) ?? open(sealed, null, config().key)
  if (opened !== null) return opened
  throw new Problem('key-changed')
}

/**
 * A secret that was sealed with a key before this one, sealed anew.
 * @returns 'as it is' where this key opens it, 'lost' where neither does
 */
export function resealWith(sealed: Buffer, use: string, oldKey: Buffer): Buffer | 'as it is' | 'lost' {
  if (open(sealed, Buffer.from(use), config().keys.sealing) !== null) return 'as it is'
  const opened = open(sealed, Buffer.from(use), keyFor(oldKey, 'sealing')) ?? open(sealed, null, oldKey)
  return opened === null ? 'lost' : seal(opened, use)
}

function open(sealed: Buffer, use: Buffer | null, key: Buffer): string | null {
  try {
    const decipher = createDecipheriv(algorithm, key, sealed.subarray(0, nonceBytes))
    if (use) decipher.setAAD(use)
    decipher.setAuthTag(sealed.subarray(nonceBytes, nonceBytes + tagBytes))
    const opened = Buffer.concat([decipher.update(sealed.subarray(nonceBytes + tagBytes)), decipher.final()])
    return opened.toString('utf8')
  } catch {
    return null
  }
}

/** A keyed signature over a text, for addresses that only this server can make. */
export const sign = (text: string): string =>
  createHmac('sha256', config().keys.signing).update(`rubricant\u0000${text}`).digest('base64url')

/** True when `signature` is what `sign` makes of the text. */
export function isSigned(text: string, signature: string): boolean {
  const expected = Buffer.from(sign(text))
  const given = Buffer.from(signature)
  return expected.length === given.length && timingSafeEqual(expected, given)
}
