import argon2 from '@node-rs/argon2'
import { dictionary } from '@zxcvbn-ts/language-common'
import { Problem } from '#core/problems'
import { config } from '#server/platform'
import { isBreached } from './breached'

const { hash, verify } = argon2
/** argon2id with the parameters of RFC 9106 §4, second choice, sized for a server that also works. */
const strength = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const

export const hashPassword = (password: string): Promise<string> => hash(password, strength)

/** Whether a password is the one that a hash was made of. */
export const verifyPassword = (passwordHash: string, password: string): Promise<boolean> =>
  verify(passwordHash, password)

let common: Set<string> | null = null

/** Whether a password stands in the lists that guessing begins with. */
function isCommon(plain: string): boolean {
  common ??= new Set(dictionary['passwords-common'])
  // Digits and signs at the end are what every list is tried with.
  return common.has(plain) || common.has(plain.replace(/[\d!?.]{1,6}$/, ''))
}

/** Shorter words stand in anything. */
const shortestWord = 4
/** Letters that have to be left of a password once all that is known of its account is taken out of it. */
const leastOwn = 6

/** Whether a password is little more than its account's address, or this application's name. */
function isOfAccount(plain: string, email: string): boolean {
  const words = ['rubricant', ...email.toLowerCase().split(/[^\p{L}\p{N}]+/u)].filter(
    (word) => word.length >= shortestWord,
  )
  if (!words.some((word) => plain.includes(word))) return false
  const own = words
    .sort((a, b) => b.length - a.length)
    .reduce((rest, word) => rest.replaceAll(word, ''), plain)
  return own.replace(/[^\p{L}\p{N}]/gu, '').length < leastOwn
}

/**
 * Refuses a password that guessing begins with.
 * @throws Problem `common-password`, `own-words-password`, `breached-password`, with the field as detail
 */
export async function refuseGuessable(
  password: string,
  email: string,
  field: string | null = null,
): Promise<void> {
  const plain = password.toLowerCase()
  if (isCommon(plain)) throw new Problem('common-password', null, { detail: { field } })
  if (isOfAccount(plain, email)) throw new Problem('own-words-password', null, { detail: { field } })
  const { breachedPasswords } = config()
  if (breachedPasswords !== null && (await isBreached(password, breachedPasswords)))
    throw new Problem('breached-password', null, { detail: { field } })
}
