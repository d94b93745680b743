import { randomBytes } from 'node:crypto'
import { stat } from 'node:fs/promises'
import path from 'node:path'
import { buffer } from 'node:stream/consumers'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals'
import { cuttingHost, type HostileListener, silentHost } from '../../../practice-host/hostile'
import { practiceHost } from '../../testing/support'
import { codeOf, keepsTheContract } from '../../testing/transport-contract'
import { MemoryTransport } from './memory'
import { openFtp } from './ftp'
import { type FtpSecurity, learnFtpKey } from './ftp-connection'
import { openSftp } from './sftp'
import { learnHostKey } from './sftp-connection'
import { type TransferLimits, transferLimits, type TransferTarget, type Transport } from './transport'

let host: Awaited<ReturnType<typeof practiceHost>>
let hostKey: string
let folders = 0
beforeAll(async () => {
  process.env.RUBRICANT_PRIVATE_HOSTS = 'true'
  host = await practiceHost()
  hostKey = await learnHostKey('127.0.0.1', host.sftpPort)
  for (const security of ['none', 'explicit', 'implicit'] as const)
    certificates[security] = await learnFtpKey({
      host: '127.0.0.1',
      port: ftpTarget(security).port,
      security,
    })
})
afterAll(() => host.end())
afterEach(() => host.faults.reset())

const target = (more: Partial<TransferTarget> = {}): TransferTarget => ({
  host: '127.0.0.1',
  port: host.sftpPort,
  account: host.account,
  password: host.password,
  folder: 'public',
  hostKey,
  mark: '0123abcd',
  ...more,
})
const certificates: Partial<Record<FtpSecurity, string>> = {}
const ftpTarget = (security: FtpSecurity, more: Partial<TransferTarget> = {}): TransferTarget =>
  target({
    port: security === 'implicit' ? host.ftpsPort : host.ftpPort,
    hostKey: certificates[security],
    folder: `public/ftp-${++folders}`,
    ...more,
  })
const readFrom = (transport: Transport, path: string, mostBytes: number) =>
  buffer(transport.read(path, mostBytes))
describe.each([
  ['in memory', () => Promise.resolve<Transport>(new MemoryTransport('0123abcd'))],
  ['over SFTP', () => openSftp(target({ folder: `public/contract-${++folders}` }))],
  [
    'over SFTP to a host that does not rename onto a file',
    () => {
      host.faults.renameReplaces = false
      return openSftp(target({ folder: `public/contract-${++folders}` }))
    },
  ],
  ['over FTP', () => openFtp('none')(ftpTarget('none'))],
  ['over FTP with TLS', () => openFtp('explicit')(ftpTarget('explicit'))],
  ['over FTP with TLS from the first byte', () => openFtp('implicit')(ftpTarget('implicit'))],
  [
    'over FTP to an old host that takes two connections and does not rename onto a file',
    () => {
      host.faults.listing = 'unix'
      host.faults.renameReplaces = false
      return openFtp('none')(ftpTarget('none'))
    },
  ],
  [
    'over FTP to a host that lists as Windows does',
    () => {
      host.faults.listing = 'dos'
      return openFtp('none')(ftpTarget('none'))
    },
  ],
])('a transport %s', (_, open) => keepsTheContract(open))

/** Short, so that a hanging host is found out within a test. */
const hasty: TransferLimits = {
  ...transferLimits,
  connectMs: 1_500,
  silenceMs: 400,
  requestMs: 3_000,
  entries: 3_000,
  depth: 12,
}
/** For a line on which all together takes longer than one may wait, or than one may be silent. */
const waitsLittle: TransferLimits = { ...transferLimits, silenceMs: 4_000, requestMs: 1_000 }
const hearsSoon: TransferLimits = { ...transferLimits, silenceMs: 600, requestMs: 5_000 }
const open = (more: Partial<TransferTarget> = {}, limits = hasty) => openSftp(target(more), { limits })

describe('SFTP tells apart', () => {
  test('a host that greets from one that does not, whatever the reason; a wrong password, another key', async () => {
    const before = [{ port: 9 }, { host: 'no-such-host.invalid' }, { host: '256.1.1.1' }]
    const messages = await Promise.all(
      before.map((more) => open(more).catch((error: Error) => error.message)),
    )
    for (const [index, message] of messages.entries()) {
      expect(await codeOf(open(before[index]!))).toBe('unreachable')
      expect(String(message).replace(/at .*?, port \d+/, '')).toBe(
        String(messages[0]).replace(/at .*?, port \d+/, ''),
      )
    }
    expect(await codeOf(open({ password: 'wrong' }))).toBe('wrong-host-password')
    expect(await codeOf(open({ hostKey: `SHA256:${'A'.repeat(43)}` }))).toBe('host-key-changed')
  })

  test('a password is handed to no host whose key was not accepted', async () => {
    host.faults.seenPassword = false
    expect(await learnHostKey('127.0.0.1', host.sftpPort)).toBe(hostKey)
    expect(await codeOf(open({ hostKey: `SHA256:${'A'.repeat(43)}` }))).toBe('host-key-changed')
    expect(host.faults.seenPassword).toBe(false)
    await (await open()).close()
    expect(host.faults.seenPassword).toBe(true)
  })

  test('a full disk, a folder that may not be written, a file in a folder’s place, a cut connection', async () => {
    const transport = await open({ folder: 'public/faults' })
    host.faults.bytesLeft = 10
    expect(await codeOf(transport.put('big.html', [Buffer.alloc(1000)]))).toBe('disk-full')
    host.faults.bytesLeft = null
    host.faults.readOnly = true
    expect(await codeOf(transport.put('a.html', [Buffer.from('a')]))).toBe('not-allowed')
    host.faults.readOnly = false
    expect(await transport.list()).toEqual([])
    await transport.put('file', [Buffer.from('x')])
    expect(await codeOf(transport.put('file/a.html', [Buffer.from('a')]))).toBe('not-a-folder')
    const inFile = await open({ folder: 'public/faults/file' })
    expect(await codeOf(inFile.list())).toBe('not-a-folder')
    const slow = transport.list()
    host.faults.cut()
    expect(await codeOf(slow)).toBe('connection-lost')
    expect(await codeOf(transport.put('a.html', [Buffer.from('a')]))).toBe('connection-lost')
  })

  test('a host that asks for the password as a question, and a wrong answer to it', async () => {
    host.faults.keyboardOnly = true
    await (await open()).close()
    expect(await codeOf(open({ password: 'wrong' }))).toBe('wrong-host-password')
  })

  test('what an account would keep to itself, and opens it to visitors', async () => {
    host.faults.closedFiles = true
    const transport = await open({ folder: 'public/closed' })
    await transport.put('in/page.html', [Buffer.from('x')])
    const modeOf = async (name: string) =>
      (await stat(path.join(host.publicPath, 'closed', name))).mode & 0o777
    expect([await modeOf('in'), await modeOf('in/page.html')]).toEqual([0o755, 0o644])
  })

  test('a bare failure is told as such, never as the protocol’s word alone', async () => {
    const transport = await open({ folder: 'public/bare' })
    host.faults.failures.set('OPEN', 1)
    const error = await transport.put('a.html', [Buffer.from('a')]).catch((failed: Error) => failed)
    expect((error as Error).message).toContain('did not say why')
    expect((error as Error).message).not.toContain('Failure')
  })
})

describe('a host that does not answer as it should', () => {
  const listeners: HostileListener[] = []
  const hostile = async (made: Promise<HostileListener>) => {
    const listener = await made
    listeners.push(listener)
    return { port: listener.port }
  }
  afterAll(() => Promise.all(listeners.map((listener) => listener.close())))

  test.each([
    ['says nothing', ''],
    ['greets like another service', '220 files ready\r\n'],
    ['greets without an end', 'x'.repeat(100_000)],
    ['greets and goes on in no protocol', 'SSH-2.0-x\r\n\u0000\u0000\u0000\u0000'],
  ])('%s: told within the deadline, and nothing is left behind', async (_, greeting) => {
    const where = await hostile(silentHost(greeting))
    expect(await codeOf(open(where))).toBe('unreachable')
    expect(await codeOf(learnHostKey('127.0.0.1', where.port, { limits: hasty }))).toBe('unreachable')
  })

  test.each(['SUBSYSTEM', 'STAT', 'OPENDIR', 'READDIR'])('never answers %s', async (what) => {
    host.faults.never.add(what)
    expect(await codeOf(open().then((transport) => transport.list()))).toBe('timeout')
  })

  test.each(['OPEN', 'WRITE', 'RENAME', 'CLOSE'])('never answers %s of a put', async (what) => {
    const transport = await open({ folder: 'public/silent' })
    host.faults.never.add(what)
    expect(await codeOf(transport.put('a.html', [Buffer.from('a')]))).toBe('timeout')
  })

  test('stops at once when it is told to, wherever it hangs', async () => {
    for (const what of ['SUBSYSTEM', 'READDIR']) {
      host.faults.never.add(what)
      const stop = new AbortController()
      const patient = { limits: { ...hasty, silenceMs: 60_000, connectMs: 60_000 }, signal: stop.signal }
      const listing = openSftp(target(), patient).then((transport) => transport.list())
      setTimeout(() => stop.abort(), 100)
      expect(await codeOf(listing)).toBe('stopped')
      host.faults.reset()
    }
  })

  test.each(['folder', 'tree'] as const)('lists a %s without an end', async (what) => {
    host.faults.endless = what
    expect(await codeOf((await open()).list())).toBe('too-much')
  })

  test('gives a file that is longer than it says', async () => {
    const transport = await open({ folder: 'public/long' })
    await transport.put('a.html', [Buffer.from('a')])
    host.faults.endless = 'file'
    expect(await codeOf(readFrom(transport, 'a.html', 100_000))).toBe('too-much')
  })

  test('is cut at any byte while it opens: every time it is told', async () => {
    // From the greeting to the first listing; a step that no message length divides.
    const codes = new Set<string>()
    for (let bytes = 1; bytes < 5_200; bytes += 173) {
      const where = await hostile(cuttingHost(host.sftpPort, bytes))
      // As patient as in earnest: the cut itself is heard. Hasty, a machine that stands still a moment is silence.
      const listed = open(where, transferLimits).then((transport) =>
        transport.list().finally(() => transport.close()),
      )
      codes.add(await codeOf(listed))
    }
    codes.delete('no error')
    expect([...codes].sort()).toEqual(['connection-lost', 'unreachable'])
  }, 60_000)
})

test.each([
  ['SFTP', 400, () => openSftp(target({ folder: 'public/slow' }), { limits: waitsLittle })],
  ['FTP', 2_000, () => openFtp('none')(ftpTarget('none'), { limits: hearsSoon })],
] as const)(
  'a slow line, over %s: what waits behind much else is given its time, and how far it is is told',
  async (_, kilobytes, openOne) => {
    const transport = await openOne()
    host.faults.bytesPerSecond = kilobytes * 1_000
    const sent = [0, 0, 0]
    await Promise.all(
      sent.map((_, nth) =>
        transport.put(`${nth}.bin`, [Buffer.alloc(kilobytes * 700)], (bytes) => (sent[nth]! += bytes)),
      ),
    )
    expect(sent).toEqual(sent.map(() => kilobytes * 700))
    const read = sent.map((_, nth) => readFrom(transport, `${nth}.bin`, kilobytes * 700))
    expect((await Promise.all(read)).map(({ length }) => length)).toEqual(sent)
    await transport.close()
  },
  30_000,
)

test.each([
  ['SFTP', () => openSftp(target({ folder: 'public/paused' }), { limits: hasty })],
  ['FTP', () => openFtp('none')(ftpTarget('none'), { limits: hasty })],
  ['FTP with TLS', () => openFtp('explicit')(ftpTarget('explicit'), { limits: hasty })],
] as const)('whoever reads a file, over %s, may take their time with it', async (_, openOne) => {
  const transport = await openOne()
  const bytes = randomBytes(20_000_000)
  await transport.put('film.bin', [bytes])
  const read: Buffer[] = []
  for await (const piece of transport.read('film.bin', bytes.length)) {
    read.push(piece)
    // Longer than the host may say nothing: it is not who is waited for.
    if (read.length === 3) await pause(3 * hasty.silenceMs)
  }
  expect(Buffer.concat(read).equals(bytes)).toBe(true)
  await transport.close()
})

describe('a host that does not rename onto a file', () => {
  test('never leaves a page missing: what cannot take its place gives it back', async () => {
    const transport = await open({ folder: 'public/aside' })
    await transport.put('page.html', [Buffer.from('old')])
    host.faults.renameReplaces = false
    // Once by itself, since the name is taken; then the file steps aside, and the new one fails again.
    host.faults.failAfter('RENAME', 2)
    expect(await codeOf(transport.put('page.html', [Buffer.from('new')]))).toBe('host-refused')
    expect((await readFrom(transport, 'page.html', 10)).toString()).toBe('old')
    expect((await transport.list()).map((file) => file.path)).toEqual(['page.html'])
  })
})
