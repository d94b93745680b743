import type { FTPError } from 'basic-ftp'
import { shown } from './ftp-names'
import { TransferError } from './transport'

/** What was to be done to a file or a folder. */
export type Act = 'look into' | 'read' | 'write' | 'remove'

/** What a refusal means. Replies say in words of their own what is wrong; the code alone tells little (RFC 959 §4.2). */
export function refusalOf(error: FTPError, act: Act, at: string): TransferError {
  const cause = { cause: error }
  const [said = ''] = shown(error.message)
    .split(/\r?\n/)
    .map((line) => line.replace(/^\d{3}[ -]/, '').trim())
    .filter((line) => line !== '')
  if (error.code === 452 || error.code === 552 || /no space|quota|disk full/i.test(said))
    return new TransferError('disk-full', { at }, cause)
  if (/read-only/i.test(said)) return new TransferError('read-only', { at }, cause)
  if (/denied|not permitted|not allowed|forbidden/i.test(said))
    return new TransferError('not-allowed', { act, at }, cause)
  if (/no such|not found|not exist|cannot find|can't find/i.test(said))
    return new TransferError('not-there', { at }, cause)
  const why = /^(failure|failed)\.?$/i.test(said) ? '' : said.replace(/\.$/, '')
  // What ended while it was written, for a reason of the host's own.
  const likely =
    error.code === 451 && act === 'write'
      ? ' (most often its disk is full, or the account’s share of it)'
      : ''
  return new TransferError('host-refused', { act, at, said: why + (why && likely) }, cause)
}
