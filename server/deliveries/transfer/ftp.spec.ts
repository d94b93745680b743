import { mkdir, readdir, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { buffer } from 'node:stream/consumers'
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals'
import { cuttingHost, type HostileListener, silentHost } from '../../../practice-host/hostile'
import { practiceHost } from '../../testing/support'
import { openFtp } from './ftp'
import { noKey } from '#core/delivery'
import { type FtpSecurity, learnFtpKey } from './ftp-connection'
import {
  readTemporary,
  TransferError,
  type TransferLimits,
  transferLimits,
  type TransferTarget,
} from './transport'

let host: Awaited<ReturnType<typeof practiceHost>>
let hostKey: string
beforeAll(async () => {
  process.env.RUBRICANT_PRIVATE_HOSTS = 'true'
  host = await practiceHost()
  hostKey = await learnFtpKey({ host: '127.0.0.1', port: host.ftpPort, security: 'explicit' })
})
afterAll(() => host.end())
afterEach(() => {
  host.faults.cut()
  host.faults.reset()
})

/** Short, so that a hanging host is found out within a test. */
const hasty: TransferLimits = { ...transferLimits, connectMs: 1_500, silenceMs: 400, requestMs: 3_000, entries: 3_000, depth: 12 } // prettier-ignore
const open = (
  more: Partial<TransferTarget> = {},
  security: FtpSecurity = 'explicit',
  signal?: AbortSignal,
  limits = hasty,
) =>
  openFtp(security)(
    {
      host: '127.0.0.1',
      port: host.ftpPort,
      account: host.account,
      password: host.password,
      folder: 'public',
      hostKey: security === 'none' ? noKey : hostKey,
      mark: '0123abcd',
      ...more,
    },
    { limits, signal },
  )
const codeOf = (work: Promise<unknown>) =>
  work.then(
    () => 'no error',
    (error: unknown) => (error instanceof TransferError ? error.code : `not expected: ${String(error)}`),
  )

test('an address of its own network that a host names for data is not believed: its port at this host is', async () => {
  host.faults.listing = 'unix'
  host.faults.wrongPassive = true
  const transport = await open({ folder: 'public/behind-another' }, 'none')
  await transport.put('index.html', [Buffer.from('there')])
  expect(String(await buffer(transport.read('index.html', 10)))).toBe('there')
  await transport.close()
})

test.each([
  ['MLSD', 'facts'],
  ['LIST', 'unix'],
  ['LIST as on Windows', 'dos'],
] as const)('files of an old system keep the names they have, by %s: shown as an address has them, read and removed', async (_, listing) => {
  const folder = path.join(host.publicPath, `old-names-${listing}`)
  // "Bär" and "schön" in ISO 8859-1, beside one in UTF-8 that is written as the first is shown.
  const inBytes = (name: string) => Buffer.concat([Buffer.from(`${folder}/`), Buffer.from(name, 'latin1')])
  await mkdir(inBytes('Bär'), { recursive: true })
  for (const [name, text] of [['Bär/schön 100%.html', 'old'], ['Bär/plain.html', 'inside'], ['voil\xc3\xa0', 'new']] as const) await writeFile(inBytes(name), text)
  host.faults.listing = listing
  const transport = await open({ folder: `public/old-names-${listing}` }, 'none')
  const listed = await transport.list()
  expect(listed.map((file) => file.path).sort()).toEqual(['B%E4r/plain.html', 'B%E4r/sch%F6n 100%25.html', 'voilà'])
  const texts = await Promise.all(listed.map(async (file) => String(await buffer(transport.read(file.path, 10)))))
  expect(texts.sort()).toEqual(['inside', 'new', 'old'])
  for (const file of listed) await transport.remove(file.path)
  expect(await readdir(inBytes('Bär'))).toEqual([])
  expect(await transport.list()).toEqual([])
  await transport.put('Bär.html', [Buffer.from('x')])
  expect(await readdir(folder)).toContain('Bär.html')
  await transport.close()
}) // prettier-ignore

describe('a host that keeps what an account makes to itself', () => {
  const modesOf = (folder: string, names: readonly string[]) =>
    Promise.all(
      names.map(async (name) => (await stat(path.join(host.publicPath, folder, name))).mode & 0o777),
    )

  test.each([
    ['tells rights in a machine’s listing', 'facts'],
    ['tells them as old servers do', 'unix'],
  ] as const)('and %s is asked to show it', async (_, listing) => {
    host.faults.closedFiles = true
    host.faults.listing = listing
    const folder = `closed-${listing}`
    const transport = await open({ folder: `public/${folder}` })
    await transport.put('in/page.html', [Buffer.from('x')])
    await transport.put('in/other/page.html', [Buffer.from('x')])
    expect(await modesOf(folder, ['.', 'in', 'in/page.html', 'in/other', 'in/other/page.html'])).toEqual([
      0o755, 0o755, 0o644, 0o755, 0o644,
    ])
    await transport.close()
  })

  test('and does not let that be changed is sent to all the same', async () => {
    host.faults.closedFiles = true
    host.faults.fixedRights = true
    const transport = await open({ folder: 'public/fixed' })
    for (const name of ['a.html', 'b.html']) await transport.put(name, [Buffer.from('x')])
    expect(await modesOf('fixed', ['a.html', 'b.html'])).toEqual([0o600, 0o600])
    expect(await transport.list()).toHaveLength(2)
    await transport.close()
  })
})

describe('FTP tells apart', () => {
  test('no host, a wrong password, another certificate, a host without TLS', async () => {
    expect(await codeOf(open({ port: 9 }))).toBe('unreachable')
    expect(await codeOf(open({ host: 'no-such-host.invalid' }))).toBe('unreachable')
    expect(await codeOf(open({ password: 'wrong' }))).toBe('wrong-host-password')
    expect(await codeOf(open({ hostKey: `SHA256:${'A'.repeat(43)}` }))).toBe('host-key-changed')
    // What was vouched for has to be so still.
    expect(await codeOf(open({ hostKey: 'vouched' }))).toBe('host-key-changed')
    host.faults.failures.set('AUTH', 1)
    expect(await codeOf(open())).toBe('no-transfer')
  })

  test('a password is handed to no host whose certificate was not accepted', async () => {
    host.faults.seenPassword = false
    expect(await learnFtpKey({ host: '127.0.0.1', port: host.ftpPort, security: 'explicit' })).toBe(hostKey)
    expect(await codeOf(open({ hostKey: `SHA256:${'B'.repeat(43)}` }))).toBe('host-key-changed')
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
    expect((await transport.list()).filter(({ path }) => readTemporary(path) === null)).toEqual([])
    await transport.put('file', [Buffer.from('x')])
    expect(await codeOf(transport.put('file/a.html', [Buffer.from('a')]))).toBe('not-a-folder')
    const inFile = await open({ folder: 'public/faults/file' })
    expect(await codeOf(inFile.list())).toBe('not-a-folder')
    const slow = transport.list()
    host.faults.cut()
    expect(await codeOf(slow)).toBe('connection-lost')
    expect(await codeOf(transport.put('a.html', [Buffer.from('a')]))).toBe('connection-lost')
  })

  test.each(['none', 'explicit'] as const)('what a host says only after it ended the data connection, %s: the rest goes on', async (security) => {
    const transport = await open({ folder: `public/says-later-${security}` }, security)
    host.faults.endsDataFirst = true
    host.faults.bytesLeft = 100_000
    expect(await codeOf(transport.put('big.bin', [Buffer.alloc(5_000_000)]))).toBe('disk-full')
    host.faults.bytesLeft = null
    expect(await codeOf(buffer(transport.read('gone.html', 10)))).toBe('not-there')
    host.faults.failures.set('WRITE', 1)
    expect(await codeOf(transport.put('a.bin', [Buffer.alloc(5_000_000)]))).toBe('host-refused')
    expect(await transport.list()).toEqual([])
    await transport.put('a.html', [Buffer.from('a')])
    expect(await transport.list()).toHaveLength(1)
    await transport.close()
  }) // prettier-ignore

  test('a line’s end in a path, an account or a folder, and sends no command that follows it', async () => {
    const transport = await open({ folder: 'public/lines' }, 'none')
    expect(await codeOf(transport.put('a\r\nDELE index.html', [Buffer.from('x')]))).toBe('not-allowed')
    expect(await codeOf(transport.remove('a\nDELE index.html'))).toBe('not-allowed')
    for (const more of [{ account: 'keeper\r\nNOOP' }, { password: 'x\nNOOP' }, { folder: 'a\rb' }])
      expect(await codeOf(open(more, 'none'))).toBe('wrong-host-password')
  })

  test('a bare failure is told as such, never as the protocol’s word alone', async () => {
    const transport = await open({ folder: 'public/bare' }, 'none')
    host.faults.failures.set('STOR', 1)
    const error = await transport.put('a.html', [Buffer.from('a')]).catch((failed: Error) => failed)
    expect((error as Error).message).toContain('did not say why')
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
    ['greets like another service', 'SSH-2.0-x\r\n'],
    ['greets without an end', 'x'.repeat(100_000)],
    ['greets, and says nothing more', '220 ready\r\n'],
  ])('%s: told within the deadline', async (_, greeting) => {
    const where = await hostile(silentHost(greeting))
    for (const security of ['none', 'explicit', 'implicit'] as const)
      expect(['unreachable', 'timeout', 'connection-lost']).toContain(await codeOf(open(where, security)))
  })

  test.each(['PASS', 'MLSD', 'CWD'])('never answers %s', async (what) => {
    host.faults.never.add(what)
    const listed = open().then((transport) => transport.list())
    expect(['timeout', 'unreachable', 'connection-lost']).toContain(await codeOf(listed))
  })

  test.each(['STOR', 'WRITE', 'RNTO', 'MLST'])('never answers %s of a put', async (what) => {
    const transport = await open({ folder: 'public/silent' })
    host.faults.never.add(what)
    expect(await codeOf(transport.put('a.html', [Buffer.from('a')]))).toBe('timeout')
  })

  test('stops at once when it is told to', async () => {
    host.faults.never.add('MLSD')
    const stop = new AbortController()
    const listing = open({}, 'explicit', stop.signal).then((transport) => transport.list())
    setTimeout(() => stop.abort(), 100)
    expect(await codeOf(listing)).toBe('stopped')
  })

  test.each(['folder', 'tree'] as const)('lists a %s without an end', async (what) => {
    host.faults.endless = what
    const code = await codeOf((await open({}, 'none')).list())
    expect(['too-much', 'timeout', 'connection-lost']).toContain(code)
    if (what === 'tree') expect(code).toBe('too-much')
  })

  test('gives a file that is longer than it says', async () => {
    const transport = await open({ folder: 'public/long' })
    await transport.put('a.html', [Buffer.from('a')])
    host.faults.endless = 'file'
    expect(await codeOf(buffer(transport.read('a.html', 100_000)))).toBe('too-much')
    // It alone was ended; the rest goes on.
    host.faults.endless = null
    expect((await buffer(transport.read('a.html', 10))).toString()).toBe('a')
  })

  test('is cut at any byte of its first connection: every time it is told', async () => {
    const codes = new Set<string>()
    for (let bytes = 1; bytes < 900; bytes += 37) {
      const where = await hostile(cuttingHost(host.ftpPort, bytes))
      // As patient as in earnest: the cut itself is heard. Hasty, a machine that stands still a moment is silence.
      const listed = open(where, 'none', undefined, transferLimits).then((transport) =>
        transport.list().finally(() => transport.close()),
      )
      codes.add(await codeOf(listed))
    }
    codes.delete('no error')
    for (const code of codes) expect(['connection-lost', 'unreachable']).toContain(code)
    expect(codes.size).toBeGreaterThan(0)
  }, 60_000)
})

test.each([
  ['does one after the other is asked for three things at once', false, 3],
  ['drops what comes with another is asked for one thing at a time', true, 1],
])('a host that %s, and each file that is put is told as it is listed', async (_, oneAtATime, most) => {
  host.faults.oneAtATime = oneAtATime
  const folder = `public/at-once-${most}`
  const transport = await open({ folder }, 'none')
  expect(transport.traits.pipelines).toBe(oneAtATime ? false : undefined)
  for (const text of ['a', 'new']) {
    host.faults.mostAtOnce = 0
    const put = await transport.put('a.html', [Buffer.from(text)])
    expect(host.faults.mostAtOnce).toBe(most)
    expect(await transport.list()).toEqual([put])
  }
  // Refused, nothing is placed, whatever the answers to what followed.
  host.faults.failures.set('RENAME', 1)
  expect(await codeOf(transport.put('b.html', [Buffer.from('b')]))).toBe('host-refused')
  expect(await transport.list()).toHaveLength(1)
  await transport.close()
})

test('a host that takes few connections is sent to over as many as it takes', async () => {
  host.faults.connections = 4
  const transport = await open({ folder: 'public/few' }, 'none')
  await Promise.all(
    Array.from({ length: 40 }, (_, at) => transport.put(`p${at}.html`, [Buffer.from(`${at}`)])),
  )
  expect(await transport.list()).toHaveLength(40)
  await transport.close()
})
