import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { practiceHost } from '../testing/support'
import { MemoryTransport } from './memory'
import { openSftp } from './sftp'
import { temporarySuffix, TransferError, type TransferTarget, type Transport } from './transport'

let host: Awaited<ReturnType<typeof practiceHost>>
let folders = 0
beforeAll(async () => {
  host = await practiceHost()
})
afterAll(() => host.end())

const target = (more: Partial<TransferTarget> = {}): TransferTarget => ({
  host: '127.0.0.1',
  port: host.sftpPort,
  account: host.account,
  password: host.password,
  folder: 'public',
  hostKey: null,
  ...more,
})
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'no error',
    (error: unknown) => (error instanceof TransferError ? error.code : `not expected: ${String(error)}`),
  )

describe.each([
  ['in memory', () => Promise.resolve<Transport>(new MemoryTransport())],
  ['over SFTP', () => openSftp(target({ folder: `public/contract-${++folders}` }))],
  [
    'over SFTP to a host that does not rename onto a file',
    () => {
      host.faults.renameReplaces = false
      return openSftp(target({ folder: `public/contract-${++folders}` }))
    },
  ],
])('a transport %s', (_, openTransport) => {
  let transport: Transport
  beforeEach(async () => {
    transport = await openTransport()
  })
  afterEach(async () => {
    await transport.close()
    host.faults.renameReplaces = true
  })

  test('lists nothing where nothing is, then what was put, folders and all', async () => {
    expect(await transport.list()).toEqual([])
    const put = await transport.put('a/b/ü c.html', Buffer.from('one'))
    await transport.put('index.html', Buffer.alloc(0))
    expect(put).toMatchObject({ path: 'a/b/ü c.html', sizeBytes: 3 })
    const listed = [...(await transport.list())].sort((a, b) => (a.path < b.path ? -1 : 1))
    expect(listed.map(({ path, sizeBytes }) => [path, sizeBytes])).toEqual([
      ['a/b/ü c.html', 3],
      ['index.html', 0],
    ])
    expect(listed[0]).toEqual(put)
  })

  test('replaces a file, reads back what was put, large ones too', async () => {
    const large = Buffer.alloc(1_500_000, 'Marrow Skerry ')
    await transport.put('large.bin', Buffer.from('small'))
    await transport.put('large.bin', large)
    expect((await transport.read('large.bin')).equals(large)).toBe(true)
    expect(await transport.list()).toHaveLength(1)
  })

  test('many puts at once end as one each, with no part left over', async () => {
    await Promise.all(
      Array.from({ length: 60 }, (_, index) =>
        transport.put(`f${index % 5}/p${index}.html`, Buffer.from(`${index}`)),
      ),
    )
    const listed = await transport.list()
    expect(listed).toHaveLength(60)
    expect(listed.filter((file) => file.path.endsWith(temporarySuffix))).toEqual([])
  })

  test('removes; what is not there is removed already; reading it is an error', async () => {
    await transport.put('x.html', Buffer.from('x'))
    await transport.remove('x.html')
    await transport.remove('x.html')
    expect(await codeOf(transport.read('x.html'))).toBe('no-folder')
  })
})

describe('SFTP tells apart', () => {
  test('a host that refuses, one that is not known, a wrong password, another key', async () => {
    expect(await codeOf(openSftp(target({ port: 9 })))).toBe('refused')
    expect(await codeOf(openSftp(target({ host: 'no-such-host.invalid' })))).toBe('not-found')
    expect(await codeOf(openSftp(target({ password: 'wrong' })))).toBe('wrong-password')
    expect(await codeOf(openSftp(target({ hostKey: `SHA256:${'A'.repeat(43)}` })))).toBe('host-key-changed')
  })

  test('a full disk, a folder that may not be written, a cut connection', async () => {
    const transport = await openSftp(target({ folder: 'public/faults' }))
    host.faults.bytesLeft = 10
    expect(await codeOf(transport.put('big.html', Buffer.alloc(1000)))).toBe('disk-full')
    host.faults.bytesLeft = null
    host.faults.readOnly = true
    expect(await codeOf(transport.put('a.html', Buffer.from('a')))).toBe('not-allowed')
    host.faults.readOnly = false
    expect(await transport.list()).toEqual([])
    const slow = transport.list()
    host.faults.cut()
    expect(await codeOf(slow)).toBe('connection-lost')
    expect(await codeOf(transport.put('a.html', Buffer.from('a')))).toBe('connection-lost')
  })
})
