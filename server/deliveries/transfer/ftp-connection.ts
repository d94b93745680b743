import { createHash } from 'node:crypto'
import type { Duplex } from 'node:stream'
import { type ConnectionOptions, TLSSocket } from 'node:tls'
import { Client, type FTPContext, FTPError } from 'basic-ftp'
import { noKey, vouchedKey } from '#core/delivery'
import { config, deadline, reachableAddresses } from '#server/platform'
import { speakBytes } from './ftp-names'
import { TransferError, type TransferLimits, transferLimits, type TransferOptions } from './transport'

/** How FTP is kept from being read on the way: not at all, from `AUTH TLS` on (RFC 4217), or from the first byte. */
export type FtpSecurity = 'none' | 'explicit' | 'implicit'

/** SHA-256 of a certificate, written as keys of SSH hosts are. */
const certificateKey = (raw: Buffer): string =>
  `SHA256:${createHash('sha256').update(raw).digest('base64').replace(/=+$/, '')}`

/** What identifies the other end of a connection. */
function keyOf(socket: Duplex): string {
  if (!(socket instanceof TLSSocket)) return noKey
  if (socket.authorized) return vouchedKey
  const { raw } = socket.getPeerCertificate() as { raw?: Buffer }
  return raw ? certificateKey(raw) : ''
}

/** Where and how an FTP connection is made. */
export interface FtpPlace {
  readonly host: string
  readonly port: number
  readonly security: FtpSecurity
}

export const protocolName = ({ security }: Pick<FtpPlace, 'security'>): string =>
  security === 'none' ? 'FTP' : 'FTP with TLS'

const usualPort = ({ security }: FtpPlace) => (security === 'implicit' ? 990 : 21)

export const unreachable = (place: FtpPlace, cause: unknown): TransferError => {
  const { host, port } = place
  const told = { host, port, protocol: protocolName(place), usual: usualPort(place) }
  return new TransferError('unreachable', told, { cause })
}

/** A listing of more bytes is no listing of a site. */
const mostBytesAnEntry = 400

/**
 * Takes of the answer to PASV the port alone (RFC 959 §4.1.2; RFC 2428 does so by itself): a host behind a translation of
 * addresses names one of its own network, and no host says where else to connect to.
 */
function passiveAtThisHost({ ftp }: Client): void {
  const ask = ftp.request.bind(ftp)
  ftp.request = async (command) => {
    const answer = await ask(command)
    const address = ftp.socket.remoteAddress?.replace(/^::ffff:/i, '')
    if (command !== 'PASV' || !address || !/^[\d.]+$/.test(address)) return answer
    const message = answer.message.replace(/\d+,\d+,\d+,\d+(?=,\d+,\d+)/, address.replaceAll('.', ','))
    return { ...answer, message }
  }
}

/**
 * Ends a connection to what greets like no FTP server, with three digits (RFC 959 §4.2): the client would wait for them until
 * its time is over, while a host of another protocol has said what it is.
 */
function hearGreeting({ ftp }: Client): void {
  ftp.socket.once('data', (data: Buffer | string) => {
    if (!/^\d{0,3}$/.test(data.toString('latin1').trimStart().slice(0, 3)))
      ftp.closeWithError(new Error('It greets like another service.'))
  })
}

/** How long a host is given to say why it ended a data connection. */
const sayWhyMs = 2_000

/**
 * Many hosts refuse a transfer by ending its data connection, and say only then why (RFC 959 §4.2: 425, 426, 451, 452, 550).
 * The library would take that end for the end of all: what the host says is waited for.
 */
function hearWhy({ ftp }: Client): void {
  const close = ftp.closeWithError.bind(ftp)
  ftp.closeWithError = (error) => {
    const { dataSocket } = ftp
    if (!dataSocket?.destroyed || !/^(?!Timeout).*\(data socket\)$/.test(error.message)) return close(error)
    // By then the transfer has ended with what was said, unless nothing was.
    setTimeout(() => ftp.dataSocket === dataSocket && close(error), sayWhyMs)
  }
}

/** What a host says after it ended the data connection of a transfer that had begun; null where it says nothing of it. */
export async function whyEnded({ ftp }: Client): Promise<FTPError | null> {
  if (ftp.closed) return null
  // What comes later would be taken for the answer to something else.
  const timer = setTimeout(() => ftp.closeWithError(new Error('It did not say why.')), sayWhyMs)
  return ftp.handle(undefined, (reply: unknown, task) => {
    clearTimeout(timer)
    task.resolve(reply instanceof FTPError && reply.code !== 421 ? reply : null)
  }) as Promise<FTPError | null>
}

/**
 * Connects and, where it is wanted, begins TLS. Nothing of the account is sent. The name is resolved here, and only
 * to where connections may lead; data connections go to the same address (RFC 2428, and PASV without its address).
 */
async function greet(place: FtpPlace, limits: TransferLimits, signal: AbortSignal): Promise<Client> {
  const { host, port, security } = place
  const addresses = await reachableAddresses(host, port, config().outgoing).catch(() => [])
  let last: unknown = null
  for (const address of addresses) {
    signal.throwIfAborted()
    const client = new Client(limits.silenceMs, {
      allowSeparateTransferHost: false,
      maxListingBytes: Math.min(limits.entries * mostBytesAnEntry, 50_000_000),
    })
    passiveAtThisHost(client)
    hearWhy(client)
    const end = () => client.close()
    signal.addEventListener('abort', end, { once: true })
    // Judged by its key, which may be of a certificate that only its author has accepted.
    const secure: ConnectionOptions = {
      host,
      servername: /[a-z]/i.test(host) && !host.includes(':') ? host : undefined,
      rejectUnauthorized: false,
    }
    try {
      const greeted =
        security === 'implicit'
          ? client.connectImplicitTLS(address, port, secure)
          : client.connect(address, port)
      hearGreeting(client)
      await greeted
      if (security === 'explicit') {
        try {
          await client.useTLS(secure)
        } catch (error) {
          if (!(error instanceof FTPError)) throw error
          throw new TransferError('no-transfer', { host, protocol: 'FTP with TLS' }, { cause: error })
        }
      }
      return client
    } catch (error) {
      client.close()
      if (error instanceof TransferError) throw error
      last = error
    } finally {
      signal.removeEventListener('abort', end)
    }
  }
  throw unreachable(place, last)
}

/** What identifies the host, learned without signing in. */
export async function learnFtpKey(
  place: FtpPlace,
  { signal, limits = transferLimits }: TransferOptions = {},
): Promise<string> {
  const client = await within(place, limits, signal, (ended) => greet(place, limits, ended))
  const key = keyOf(client.ftp.socket)
  client.close()
  return key
}

/** Does what has to be done before a connection counts as made, or says that nobody is there. */
export async function within<T>(
  place: FtpPlace,
  limits: TransferLimits,
  signal: AbortSignal | undefined,
  work: (ended: AbortSignal) => Promise<T>,
): Promise<T> {
  const ended = deadline(limits.connectMs, signal)
  const aborted = new Promise<never>((_, reject) => {
    const end = () => reject(signal?.aborted ? new TransferError('stopped') : unreachable(place, null))
    if (ended.aborted) end()
    else ended.addEventListener('abort', end, { once: true })
  })
  aborted.catch(() => {})
  return Promise.race([work(ended), aborted])
}

/**
 * A connection that is signed in at the host of an accepted key: the password is sent to no other, and each data
 * connection has to be with the same.
 * @param onOther called when one is with another
 */
export async function signIn(
  place: FtpPlace,
  { account, password, hostKey }: { account: string; password: string; hostKey: string },
  limits: TransferLimits,
  signal: AbortSignal,
  onOther: (error: TransferError) => void,
): Promise<Client> {
  const client = await greet(place, limits, signal)
  const end = () => client.close()
  signal.addEventListener('abort', end, { once: true })
  try {
    const key = keyOf(client.ftp.socket)
    if (key !== hostKey) throw new TransferError('host-key-changed', { host: place.host, key })
    try {
      await client.login(account, password)
    } catch (error) {
      if (!(error instanceof FTPError)) throw error
      if (error.code === 421) throw error
      throw new TransferError('wrong-host-password', { host: place.host }, { cause: error })
    }
    await client.useDefaultSettings()
    speakBytes(client)
    guardData(client, place, hostKey, onOther)
    return client
  } catch (error) {
    client.close()
    if (error instanceof TransferError || error instanceof FTPError) throw error
    const when = 'was cut while signing in. Try again; if it happens again, ask the host'
    throw new TransferError('connection-lost', { host: place.host, when }, { cause: error })
  } finally {
    signal.removeEventListener('abort', end)
  }
}

/** Holds each data connection against the key. One that goes on with the session of the control connection has it. */
function guardData(
  client: Client,
  { host, security }: FtpPlace,
  hostKey: string,
  onOther: (error: TransferError) => void,
): void {
  if (security === 'none') return
  let passive = client.prepareTransfer
  const guarded = async (ftp: FTPContext) => {
    const answer = await passive(ftp)
    // The library puts the way that worked in the place of its search.
    if (client.prepareTransfer !== guarded) {
      passive = client.prepareTransfer
      client.prepareTransfer = guarded
    }
    const { dataSocket } = ftp
    if (!(dataSocket instanceof TLSSocket))
      throw new TransferError('no-transfer', { host, protocol: 'FTP with TLS' })
    // Many hosts begin TLS only once they were told what for. Heard before the library hears it, and so before a
    // byte of the file is sent or taken.
    dataSocket.once('secureConnect', () => {
      const key = keyOf(dataSocket)
      if (dataSocket.isSessionReused() || key === hostKey) return
      dataSocket.destroy()
      onOther(new TransferError('host-key-changed', { host, key }))
    })
    return answer
  }
  client.prepareTransfer = guarded
}
