import { buffer } from 'node:stream/consumers'
import { afterEach, beforeEach, expect, test } from '@jest/globals'
import { asideName, readTemporary, TransferError, type Transport } from '../deliveries/transfer/transport'

/** The code of the `TransferError` that some work ends with. */
export const codeOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'no error',
    (error: unknown) => (error instanceof TransferError ? error.code : `not expected: ${String(error)}`),
  )

/**
 * What the contract of `Transport` means, as tests: every transport is held by them, in memory, against the practice host,
 * and against the servers that web hosts run.
 * @param openTransport opens one in an empty folder; its mark is `0123abcd`
 */
export function keepsTheContract(openTransport: () => Promise<Transport>): void {
  let transport: Transport
  beforeEach(async () => {
    transport = await openTransport()
  })
  const read = (path: string, mostBytes: number) => buffer(transport.read(path, mostBytes))
  afterEach(() => transport.close())

  test('lists nothing where nothing is, then what was put, folders and all', async () => {
    expect(await transport.list()).toEqual([])
    const put = await transport.put('a/b/ü c.html', [Buffer.from('one')])
    await transport.put('index.html', [Buffer.alloc(0)])
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
    await transport.put('large.bin', [Buffer.from('small')])
    await transport.put('large.bin', [large])
    expect((await read('large.bin', large.length)).equals(large)).toBe(true)
    expect(await transport.list()).toHaveLength(1)
  })

  test('takes a file in pieces of any size, one at a time', async () => {
    const whole = Buffer.alloc(300_000, 'Marrow Skerry ')
    const given: number[] = []
    async function* pieces() {
      for (const [from, to] of [[0, 1], [1, 100_000], [100_000, 100_000], [100_000, 300_000]] as const) {
        given.push(from)
        yield whole.subarray(from, to)
      }
    } // prettier-ignore
    expect(await transport.put('pieces.bin', pieces())).toMatchObject({ sizeBytes: 300_000 })
    expect((await read('pieces.bin', 300_000)).equals(whole)).toBe(true)
    expect(given).toEqual([0, 1, 100_000, 100_000])
  })

  test('leaves the file that is there, and no part, when the pieces do not come to their end', async () => {
    await transport.put('page.html', [Buffer.from('old')])
    async function* broken() {
      yield Buffer.from('new, in pa')
      throw new Error('the database went away')
    }
    await expect(transport.put('page.html', broken())).rejects.toThrow('went away')
    expect((await read('page.html', 10)).toString()).toBe('old')
    expect((await transport.list()).map((file) => file.path)).toEqual(['page.html'])
  })

  test('many puts at once end as one each, with no part left over', async () => {
    await Promise.all(
      Array.from({ length: 60 }, (_, index) =>
        transport.put(`f${index % 5}/p${index}.html`, [Buffer.from(`${index}`)]),
      ),
    )
    const listed = await transport.list()
    expect(listed).toHaveLength(60)
    expect(listed.filter((file) => readTemporary(file.path) !== null)).toEqual([])
  })

  test('says when a file was changed, or that the host does not let it be said', async () => {
    const put = await transport.put('x.html', [Buffer.from('x')])
    const wanted = 1_700_000_040
    const outcome = await transport.setTime('x.html', wanted).then(
      ({ modifiedSeconds }) => modifiedSeconds,
      (error: TransferError) => error.code,
    )
    const [listed] = await transport.list()
    // A listing in words tells of what is that old the day.
    if (typeof outcome === 'number') expect(Math.abs(outcome - wanted)).toBeLessThan(86_400)
    else expect(outcome).toBe('host-refused')
    expect(listed).toEqual({
      ...put,
      modifiedSeconds: typeof outcome === 'number' ? outcome : put.modifiedSeconds,
    })
    expect(await codeOf(transport.setTime('nowhere.html', wanted))).not.toBe('no error')
  })

  test('removes; what is not there is removed already; reading it is an error', async () => {
    await transport.put('x.html', [Buffer.from('x')])
    await transport.remove('x.html')
    await transport.remove('x.html')
    expect(await codeOf(read('x.html', 10))).toBe('not-there')
  })

  test('reads no further than it is told to', async () => {
    await transport.put('x.html', [Buffer.from('12345')])
    expect((await read('x.html', 5)).toString()).toBe('12345')
    expect(await codeOf(read('x.html', 4))).toBe('too-much')
  })

  test('mends what a cut put of its own left, and leaves that of others', async () => {
    const put = (name: string) => transport.put(name, [Buffer.from(name)])
    await put(asideName('gone.html', '0123abcd'))
    await put(asideName('new.html', '0123abcd'))
    await put('new.html')
    await put('page.html.0123abcd00000000.rubricant-part')
    await put('page.html.ffffffff00000000.rubricant-part')
    const listed = (await transport.mend(await transport.list())).map((file) => file.path).sort()
    expect(listed).toEqual(['gone.html', 'new.html'])
    expect((await transport.list()).map((file) => file.path).sort()).toEqual([
      'gone.html',
      'new.html',
      'page.html.ffffffff00000000.rubricant-part',
    ])
    expect((await read('new.html', 100)).toString()).toBe('new.html')
  })

  test('names the folders in a folder, and none where none is', async () => {
    for (const path of ['a/b/one.html', 'a/two.html', 'c d/ü/three.html', 'four.html'])
      await transport.put(path, [Buffer.from('x')])
    expect((await transport.folders('')).sort()).toEqual(['a', 'c d'])
    expect(await transport.folders('a')).toEqual(['b'])
    expect(await transport.folders('a/b')).toEqual([])
    expect(await transport.folders('nowhere')).toEqual([])
  })
}
