import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import net from 'node:net'
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { diskPath } from './disk'
import { Faults } from './faults'
import { type PracticeHost, startPracticeHost } from './host'

let folder: string
let host: PracticeHost
beforeAll(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-practice-'))
  host = await startPracticeHost({ folder, sftpPort: 0, webPort: 0 })
  await mkdir(path.join(host.publicPath, 'visit'))
  await writeFile(path.join(host.publicPath, 'visit', 'index.html'), 'visit home')
  await writeFile(path.join(host.publicPath, 'visit', 'ü b.html'), 'umlaut')
  await mkdir(path.join(host.publicPath, 'empty'))
  await writeFile(path.join(folder, 'space', 'private.txt'), 'not shown')
  await writeFile(path.join(host.publicPath, '.htaccess'), 'hidden')
})
afterAll(async () => {
  await host.close()
  await rm(folder, { recursive: true })
})

const ask = (at: string, init?: RequestInit) =>
  fetch(`http://127.0.0.1:${host.webPort}/${at}`, { redirect: 'manual', ...init })

describe('the public address', () => {
  test('begins with a page of the host’s own', async () => {
    expect(await (await ask('')).text()).toContain('This web space is ready')
  })
  test('shows a folder by its home file, after a slash', async () => {
    expect((await ask('visit')).headers.get('location')).toBe('/visit/')
    expect(await (await ask('visit/')).text()).toBe('visit home')
    expect((await ask('empty/')).status).toBe(404)
  })
  test('tells case apart and reads percent-encoding', async () => {
    expect((await ask('Visit/')).status).toBe(404)
    expect(await (await ask('visit/%C3%BC%20b.html')).text()).toBe('umlaut')
    expect((await ask('visit/index.html/')).status).toBe(404)
  })
  test('shows nothing outside its folder, and no dot files', async () => {
    for (const at of ['%2e%2e/private.txt', '..%2fprivate.txt', '.htaccess'])
      expect((await ask(at)).status).toBe(404)
    expect((await ask('%')).status).toBe(400)
    expect((await ask('visit/', { method: 'POST' })).status).toBe(405)
  })
  test('answers with the folder’s own 404 page once there is one', async () => {
    await writeFile(path.join(host.publicPath, '404.html'), 'own 404')
    const answer = await ask('nothing.html')
    expect([answer.status, await answer.text()]).toEqual([404, 'own 404'])
  })
})

test('no path of an account leaves its folder', () => {
  for (const wanted of ['../x', '/../../x', 'a/../../x', './../x'])
    expect(diskPath('/space', wanted, new Faults())).toBe('/space/x')
})

test('a connection that ends while it asks for a way for data leaves none open', async () => {
  const doors = () => process.getActiveResourcesInfo().filter((one) => one === 'TCPServerWrap').length
  const before = doors()
  for (let nth = 0; nth < 20; nth++) {
    const socket = net.connect(host.ftpPort, '127.0.0.1')
    const answered = (code: string) =>
      new Promise<void>((resolve) => {
        const hear = (data: Buffer) => {
          if (!data.toString().includes(code)) return
          socket.off('data', hear)
          resolve()
        }
        socket.on('data', hear)
      })
    await answered('220 ')
    socket.write(`USER ${host.account}\r\nPASS ${host.password}\r\n`)
    await answered('230 ')
    // It goes while the host is still at what it asked for.
    const gone = new Promise((resolve) => socket.on('close', resolve))
    socket.write('MLST /\r\nEPSV\r\n'.repeat(20), () => socket.resetAndDestroy())
    await gone
  }
  for (let waits = 0; doors() > before && waits < 200; waits++)
    await new Promise((resolve) => setTimeout(resolve, 10))
  expect(doors()).toBe(before)
})

test('a second start keeps key, password and files', async () => {
  const again = await startPracticeHost({ folder, sftpPort: 0, webPort: 0 })
  expect(again.password).toBe(host.password)
  expect(await readFile(path.join(again.publicPath, '404.html'), 'utf8')).toBe('own 404')
  await again.close()
})
