import { createCipheriv, createDecipheriv, createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { config } from '#server/config'
import { Problem } from '#server/problem'

const algorithm = 'aes-256-gcm'
const nonceBytes = 12
const tagBytes = 16

/** Encrypts a secret for storage: nonce, tag, ciphertext (AES-256-GCM, NIST SP 800-38D). */
export function seal(secret: string, key = config().key): Buffer {
  const nonce = randomBytes(nonceBytes)
  const cipher = createCipheriv(algorithm, key, nonce)
  const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed])
}

/** Opens what `seal` made; throws a Problem when the key is another one. */
export function unseal(sealed: Buffer, key = config().key): string {
  const decipher = createDecipheriv(algorithm, key, sealed.subarray(0, nonceBytes))
  decipher.setAuthTag(sealed.subarray(nonceBytes, nonceBytes + tagBytes))
  try {
    return Buffer.concat([
      decipher.update(sealed.subarray(nonceBytes + tagBytes)),
      decipher.final(),
    ]).toString('utf8')
  } catch {
    throw new Problem(
      'key-changed',
      'The stored password cannot be opened with this server’s key. Enter the password again.',
    )
  }
}

/** A keyed signature over a text, for addresses that only this server can make. */
export const sign = (text: string): string =>
  createHmac('sha256', config().key).update(`rubricant\u0000${text}`).digest('base64url')

/** True when `signature` is what `sign` makes of the text. */
export function isSigned(text: string, signature: string): boolean {
  const expected = Buffer.from(sign(text))
  const given = Buffer.from(signature)
  return expected.length === given.length && timingSafeEqual(expected, given)
}
