import { randomBytes } from 'node:crypto'
import { type Protocol, protocols } from '#core/delivery'
import { Problem } from '#core/problems'
import { hashOf } from '#server/contents'
import { askOutside, deadline, eachOf, limitDestinationTests } from '#server/platform'
import { TransferError, transferLimits, type Transport } from '../transfer/transport'
import { transportOf } from '../transfer/transports'
import { credentialsFor, type DestinationForm, type DestinationOwner, storedOf } from './destinations'

/** What a host was found to speak, and where. */
export interface FoundProtocol {
  readonly protocol: Protocol
  readonly port: number
  /** What identifies the host there, learned without signing in. */
  readonly hostKey: string
}

/** A host that has not shown within this what it is, speaks something else. */
const greeting = { ...transferLimits, connectMs: 6_000 }

/** From the safest on. */
const inOrder: readonly Protocol[] = ['sftp', 'ftps', 'ftps-implicit', 'ftp']

/**
 * Tries what a host speaks, the safest first; nothing of the account is sent.
 * @param port what its author was told; null, or a usual one, tries each protocol where it usually is
 * @throws Problem `no-way`; TransferError `stopped`
 */
export async function findProtocol(
  accountId: string,
  host: string,
  port: number | null,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<FoundProtocol> {
  await limitDestinationTests(accountId)
  const usual = new Set(inOrder.map((protocol) => protocols[protocol].usualPort))
  const ways = inOrder.map((protocol) => ({
    protocol,
    port: port === null || usual.has(port) ? protocols[protocol].usualPort : port,
  }))
  let done = 0
  tell(done, ways.length)
  // All at once: a host that is silent at one port keeps nobody waiting for the others.
  const answers = await Promise.all(
    ways.map(async (way): Promise<FoundProtocol | null> => {
      try {
        return {
          ...way,
          hostKey: await transportOf(way).learnKey(host, way.port, { signal, limits: greeting }),
        }
      } catch (error) {
        if (!(error instanceof TransferError) || error.code === 'stopped') throw error
        return null
      } finally {
        tell(++done, ways.length)
      }
    }),
  )
  const found = answers.find((answer) => answer !== null)
  if (found) return found
  const tried = ways.map(({ protocol, port: at }) => `${protocols[protocol].title} at port ${at}`)
  throw new Problem('no-way', { host, tried: tried.join(', ') })
}

/** What hosts call the folder that visitors see, the most usual first. */
const usualFolders = [
  'public_html',
  'public',
  'htdocs',
  'www',
  'httpdocs',
  'html',
  'web',
  'wwwroot',
  'site',
  'web_root',
  'docs',
]
/** Folders in which a file is put to see whether visitors find it. */
const mostFolders = 30
/** Addresses asked for at a time. */
const askAtOnce = 4
const answerMs = 10_000

/** The folder that a public address shows. */
export interface FoundFolder {
  readonly folder: string
  /** Folders that were tried. */
  readonly tried: number
}

/**
 * Finds the folder that visitors see: a small file of an unguessable name is put into each that it may be, its name asked
 * for at the public address, and all of them removed again, whatever happens.
 * @param hostKey what its author accepted
 * @throws Problem `no-folder`; TransferError
 */
export async function findFolder(
  form: DestinationForm,
  id: string | null,
  owner: DestinationOwner,
  hostKey: string,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<FoundFolder> {
  await limitDestinationTests(owner.accountId)
  const credentials = await credentialsFor(form, await storedOf(id, owner), owner)
  const mark = randomBytes(4).toString('hex')
  const target = { ...form, ...credentials, folder: '', hostKey, mark }
  const transport = await transportOf(form).open(target, { signal })
  try {
    const candidates = await candidatesOf(transport, form.folder)
    const put = new Map<string, { readonly folder: string; readonly hash: string }>()
    try {
      let done = 0
      const all = 2 * candidates.length
      await eachOf(candidates, 8, async (folder) => {
        const name = `rubricant-${randomBytes(9).toString('hex')}.txt`
        const content = randomBytes(24).toString('hex')
        const at = folder === '' ? name : `${folder}/${name}`
        // It may be there although the host says no.
        put.set(at, { folder, hash: hashOf(content) })
        await transport.put(at, [Buffer.from(content)]).catch((error: unknown) => {
          // A folder that cannot be written is not the one; anything else ends it.
          if (
            !(error instanceof TransferError) ||
            !['not-allowed', 'host-refused', 'read-only'].includes(error.code)
          )
            throw error
          put.delete(at)
        })
        tell(++done, all)
      })
      const found: FoundFolder[] = []
      await eachOf([...put], askAtOnce, async ([at, { folder, hash }]) => {
        signal.throwIfAborted()
        const name = at.slice(at.lastIndexOf('/') + 1)
        const below = await shownBelow(form.publicAddress, name, hash, signal)
        if (below !== null)
          found.push({ folder: [folder, below].filter((part) => part !== '').join('/'), tried: put.size })
        tell(++done, all)
      })
      // Where one folder is seen in two ways, the longer address is the site's own.
      const [best] = found.sort((a, b) => a.folder.length - b.folder.length)
      if (best) return best
      throw new Problem('no-folder', { address: form.publicAddress, tried: put.size })
    } finally {
      await Promise.allSettled([...put.keys()].map((at) => transport.remove(at)))
    }
  } finally {
    await transport.close()
  }
}

/** Folders of an account that may be shown, the likeliest first; '' is the account's own. */
async function candidatesOf(transport: Transport, said: string): Promise<string[]> {
  const top = (await transport.folders('')).filter((name) => !name.startsWith('.'))
  const rank = (name: string) => {
    const at = usualFolders.indexOf(name.toLowerCase())
    return at < 0 ? usualFolders.length : at
  }
  top.sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1))
  const candidates = new Set(said === '' ? [] : [said.replace(/^\/+|\/+$/g, '')])
  for (const name of top.filter((one) => rank(one) < usualFolders.length)) candidates.add(name)
  candidates.add('')
  for (const name of top) candidates.add(name)
  // Some hosts have a folder for each domain, and the one that is shown in it.
  for (const name of top.slice(0, mostFolders / 2)) {
    if (candidates.size >= mostFolders) break
    for (const below of await transport.folders(name)) {
      if (rank(below) < usualFolders.length || /\./.test(below)) candidates.add(`${name}/${below}`)
      for (const deeper of /\./.test(below) ? await transport.folders(`${name}/${below}`) : [])
        if (rank(deeper) < usualFolders.length) candidates.add(`${name}/${below}/${deeper}`)
    }
  }
  return [...candidates].slice(0, mostFolders)
}

/**
 * Whether visitors are shown a file at an address or above it.
 * @returns what of the address's path lies below the folder that holds it: '' where the address shows the folder itself
 */
async function shownBelow(
  address: string,
  name: string,
  hash: string,
  signal: AbortSignal,
): Promise<string | null> {
  const url = new URL(address)
  const steps = url.pathname.split('/').filter((step) => step !== '')
  for (let depth = steps.length; depth >= 0; depth--) {
    const at = new URL(`/${[...steps.slice(0, depth), name].join('/')}`, url)
    const answer = await askOutside(
      at,
      'GET',
      { accept: '*/*', 'cache-control': 'no-cache' },
      deadline(answerMs, signal),
      1_000,
    ).catch(() => null)
    signal.throwIfAborted()
    if (answer?.status === 200 && answer.hash === hash)
      return steps.slice(depth).map(decodeURIComponent).join('/')
  }
  return null
}
