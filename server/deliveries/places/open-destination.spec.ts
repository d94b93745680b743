import { randomUUID } from 'node:crypto'
import { expect, test } from '@jest/globals'
import { seal } from '../../platform/secrets'
import { openDestination } from './open-destination'
import { sealedFor } from './sign-in'
import { MemoryTransport } from '../transfer/memory'
import { transports, type TransportKind } from '../transfer/transports'

test('a transport that somebody adds is chosen by the destination’s protocol, and one that is not there never by chance', async () => {
  const webHostId = randomUUID()
  const place = {
    id: randomUUID(), webHostId, accountId: randomUUID(), signIn: 'password' as const, otherCount: 0, siteId: '', name: '', protocol: 'bottle', host: 'sea', port: 1, account: 'keeper',
    folder: '', publicAddress: '', hostKey: '', traits: {}, listedAt: null, byItselfMinutes: null,
  } // prettier-ignore
  const destination = { ...place, secretSealed: seal('corked', sealedFor({ ...place, id: webHostId })) }
  const opened: string[] = []
  const bottle: TransportKind = {
    learnKey: async () => 'cork',
    open: async (target) => {
      opened.push(`${target.account} ${target.password} ${target.host}`)
      return new MemoryTransport(target.mark)
    },
  }
  const transport = await openDestination(destination, new AbortController().signal, {
    ...transports,
    bottle,
  })
  await transport.put('index.html', [Buffer.from('<p>')])
  expect((await transport.list()).map(({ path }) => path)).toEqual(['index.html'])
  expect(opened).toEqual(['keeper corked sea'])
  await expect(openDestination(destination, new AbortController().signal)).rejects.toThrow('bottle')
})
