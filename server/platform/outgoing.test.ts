import net from 'node:net'
import type { AddressInfo } from 'node:net'
import { describe, expect, test } from '@jest/globals'
import { dial, isPublicAddress, reachableAddresses } from './outgoing'

const closed = { privateRanges: false, allowed: [] }

describe('addresses that outgoing connections may reach', () => {
  test.each([
    '127.0.0.1', '127.255.255.254', '0.0.0.0', '10.1.2.3', '172.16.0.1', '172.31.255.255', '192.168.1.1',
    '169.254.169.254', '100.64.0.1', '192.0.2.1', '198.51.100.1', '203.0.113.1', '198.18.0.1', '224.0.0.1',
    '255.255.255.255', '::', '::1', '::ffff:127.0.0.1', '::ffff:7f00:1', '::127.0.0.1', 'fe80::1', 'fe80::1%eth0',
    'fc00::1', 'fd12:3456::1', 'ff02::1', '64:ff9b::7f00:1', '2002:7f00:1::', '2001:db8::1', 'no address',
  ])('%s is not', (address) => expect(isPublicAddress(address)).toBe(false)) // prettier-ignore

  test.each(['8.8.8.8', '172.32.0.1', '172.15.0.1', '100.128.0.1', '2606:4700::1111', '2a00:1450::1'])(
    '%s is',
    (address) => expect(isPublicAddress(address)).toBe(true),
  )

  test.each(['localhost', '127.0.0.1', '[::1]', '::ffff:127.0.0.1', '127.1', '0x7f000001', '2130706433'])(
    'a name or spelling that leads inside is judged by where it leads: %s',
    async (host) => expect(await reachableAddresses(host, 22, closed).catch(() => [])).toEqual([]),
  )

  test('one place can be let through, by its port', async () => {
    const rules = { privateRanges: false, allowed: [{ host: '127.0.0.1', port: 4622 }] }
    expect(await reachableAddresses('127.0.0.1', 4622, rules)).toEqual(['127.0.0.1'])
    expect(await reachableAddresses('127.0.0.1', 4623, rules)).toEqual([])
    expect(await reachableAddresses('localhost', 4622, rules)).toEqual([])
    expect(await reachableAddresses('127.0.0.1', 4623, { ...rules, privateRanges: true })).toEqual([
      '127.0.0.1',
    ])
  })

  test('nothing is sent to one that is refused', async () => {
    let connections = 0
    const server = net.createServer((socket) => {
      connections += 1
      socket.destroy()
    })
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    const { port } = server.address() as AddressInfo
    const never = new AbortController().signal
    await expect(dial('127.0.0.1', port, closed, never)).rejects.toThrow('No address')
    expect(connections).toBe(0)
    const open = await dial('127.0.0.1', port, { ...closed, privateRanges: true }, never)
    open.destroy()
    await new Promise((resolve) => server.close(resolve))
    expect(connections).toBe(1)
  })
})
