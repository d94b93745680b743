import { randomBytes } from 'node:crypto'
import { buffer } from 'node:stream/consumers'
import type { HostTraits } from '#core/delivery'
import { partName, TransferError, type Transport } from '../transfer/transport'

/** Letters of a name that is longer than any a site is likely to have, its ending included. */
const longestTried = 150
/** No host takes fewer, ending included: names of that length are older than the web. */
const shortestTried = 12

/**
 * Tries what a place lets one do: writes, reads and removes a small file, and looks at what the host makes of names
 * meanwhile. What is left when it is cut is of a name that the next delivery removes.
 * @param mark tells the names from those of other destinations
 * @throws TransferError where writing, reading or removing fails
 */
export async function tryPlace(transport: Transport, mark: string): Promise<HostTraits> {
  const name = partName('rubricant-test', mark, randomBytes(4).toString('hex'))
  const written = randomBytes(32)
  await transport.put(name, [written])
  try {
    // In the place of the one that is there.
    await transport.put(name, [written])
    const read = await buffer(transport.read(name, written.length))
    if (!read.equals(written)) throw new TransferError('other-bytes')
    transport.learn({ tellsCase: !(await transport.has(name.toUpperCase())) })
    await trySettingTimes(transport, name)
  } finally {
    await transport.remove(name)
  }
  const longest = await longestName(transport, mark)
  if (longest < longestTried) transport.learn({ longestName: longest })
  return transport.traits
}

/** How long before now a file is said to be changed. */
const agoSeconds = 40 * 86_400
/** How far off a host may tell it: disks keep two seconds as one, words name no zone. */
const offSeconds = { inUtc: 3, inWords: 2 * 86_400 }

/** Some hosts refuse, others say yes and leave it as it was, or take the time for one of their own zone. */
async function trySettingTimes(transport: Transport, name: string): Promise<void> {
  const wanted = Math.floor(Date.now() / 1_000) - agoSeconds
  let setsTimes = false
  try {
    const { modifiedSeconds } = await transport.setTime(name, wanted)
    const off = transport.tellsUtc ? offSeconds.inUtc : offSeconds.inWords
    setsTimes = modifiedSeconds !== null && Math.abs(modifiedSeconds - wanted) <= off
  } catch (error) {
    if (!isRefusal(error)) throw error
  }
  transport.learn({ setsTimes })
}

/** Letters of the longest name that a file can be put under, at most `longestTried`. */
async function longestName(transport: Transport, mark: string): Promise<number> {
  if (await takesName(transport, mark, longestTried)) return longestTried
  let [taken, refused] = [shortestTried, longestTried]
  while (refused - taken > 1) {
    const middle = Math.floor((taken + refused) / 2)
    if (await takesName(transport, mark, middle)) taken = middle
    else refused = middle
  }
  return taken
}

async function takesName(transport: Transport, mark: string, letters: number): Promise<boolean> {
  const name = `rubricant-${mark}`.padEnd(letters - 4, 'x').slice(0, letters - 4) + '.txt'
  try {
    await transport.put(name, [])
    await transport.remove(name)
    return true
  } catch (error) {
    if (isRefusal(error)) return false
    throw error
  }
}

/** Whether a host says no to what it was asked, and to nothing else. */
const isRefusal = (error: unknown) =>
  error instanceof TransferError && ['host-refused', 'not-allowed', 'not-there'].includes(error.code)
