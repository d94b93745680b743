import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import http from 'node:http'
import https from 'node:https'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { chromium, expect, test } from '@playwright/test'
import { launchOptions } from '../bin/lib/chromium.mjs'
import { freePort } from '../bin/lib/run.mjs'
import { keepRunning, startChild } from '../bin/lib/services.mjs'
import { allSaved, makeSiteByHand, signUpByHand } from './support'

// A second process of the application on the same database, as it runs in public: behind a proxy that ends
// TLS, under a name, looked after by the supervisor.

const name = 'rubricant.example'
let folder: string
let proxy: https.Server
let app: Awaited<ReturnType<typeof start>>
let port: number

const start = async () => {
  port = await freePort()
  return keepRunning('The application under test', () =>
    startChild(
      'bin/server.mjs',
      {
        PORT: port,
        RUBRICANT_ORIGIN: `https://${name}:${tlsPort()}`,
        RUBRICANT_PROXIES: 1,
        RUBRICANT_HEARTBEAT: 1,
        LOG_LEVEL: 'error',
      },
      /server ready/,
    ),
  )
}
const tlsPort = () => (proxy.address() as AddressInfo).port
const origin = () => `https://${name}:${tlsPort()}`

test.beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'rubricant-tls-'))
  const [key, cert] = [path.join(folder, 'key.pem'), path.join(folder, 'cert.pem')]
  execFileSync('openssl', [
    ...['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-days', '2'],
    ...['-subj', `/CN=${name}`, '-keyout', key, '-out', cert],
  ]) // prettier-ignore
  proxy = https.createServer({ key: readFileSync(key), cert: readFileSync(cert) }, (request, response) => {
    const headers = {
      ...request.headers,
      // What a visitor says of itself is replaced.
      'x-forwarded-for': '192.0.2.7',
      'x-forwarded-proto': 'https',
      'x-forwarded-host': request.headers.host,
    }
    const { method, url: target } = request
    const passed = http.request({ port, host: '127.0.0.1', method, path: target, headers }, (answer) => {
      response.writeHead(answer.statusCode!, answer.headers)
      answer.pipe(response)
    })
    passed.on('error', () => (response.headersSent ? response.destroy() : response.writeHead(502).end()))
    response.on('close', () => passed.destroy())
    request.pipe(passed)
  })
  await new Promise<void>((resolve) => proxy.listen(0, '127.0.0.1', resolve))
  app = await start()
})
test.afterAll(async () => {
  await app.stop()
  proxy.closeAllConnections()
  proxy.close()
  rmSync(folder, { recursive: true, force: true })
})

const openBrowser = () =>
  chromium.launch({
    ...launchOptions,
    args: [...launchOptions.args, `--host-resolver-rules=MAP ${name} 127.0.0.1`],
  })

test('behind a proxy that ends TLS one signs in, changes are taken, and nothing of the demo is open', async () => {
  const browser = await openBrowser()
  const page = await browser.newPage({ ignoreHTTPSErrors: true, baseURL: origin() })
  const answer = await page.goto('/sign-in')
  expect(answer!.headers()['strict-transport-security']).toContain('max-age')
  await expect(page.getByRole('button', { name: 'Open the demo account' })).toHaveCount(0)
  // Asked for without its button, it is not opened either.
  await page.evaluate(() => fetch('/sign-in', { method: 'POST', body: new URLSearchParams({ demo: '1' }) }))
  await page.goto('/sites')
  await expect(page).toHaveURL(/sign-in/)

  await signUpByHand(page)
  const cookies = await page.context().cookies()
  expect(cookies.map(({ name: cookie, secure }) => [cookie, secure]).sort()).toEqual([
    ['__Host-rubricant_known', true],
    ['__Host-rubricant_session', true],
  ])
  await makeSiteByHand(page, 'Saltpan Chapel', 'Home\n  Visit')
  await allSaved(page)
  await browser.close()
})

test('a stream of events ends with its session', async () => {
  const browser = await openBrowser()
  const context = await browser.newContext({ ignoreHTTPSErrors: true, baseURL: origin() })
  const page = await context.newPage()
  await signUpByHand(page)
  const siteId = await makeSiteByHand(page, 'Saltpan Chapel', 'Home')
  const other = await context.newPage()
  // The list of sites leaves with whoever signs out.
  await other.goto('/kits')
  await other.evaluate((address) => {
    const told = window as unknown as { ended?: boolean }
    void fetch(address).then(async (response) => {
      const reader = response.body!.getReader()
      while (!(await reader.read()).done);
      told.ended = true
    })
  }, `/sites/${siteId}/events`)
  await page.goto('/sites')
  expect(await other.evaluate(() => (window as unknown as { ended?: boolean }).ended)).toBeUndefined()
  await page.getByRole('button', { name: 'Sign out' }).click()
  await page.waitForURL('**/sign-in')
  await expect.poll(() => other.evaluate(() => (window as unknown as { ended?: boolean }).ended)).toBe(true)
  await browser.close()
})

test('a process that is killed is started again, and what was typed meanwhile is saved', async () => {
  const browser = await openBrowser()
  const page = await browser.newPage({ ignoreHTTPSErrors: true, baseURL: origin() })
  await signUpByHand(page)
  await makeSiteByHand(page, 'Saltpan Chapel', 'Home\n  Visit')
  await allSaved(page)
  const killed = app.current().child.pid
  app.current().child.kill('SIGKILL')
  await page.getByRole('row', { name: 'Visit' }).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Tides')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Not saved')).toBeVisible()
  await allSaved(page)
  expect(app.current().child.pid).not.toBe(killed)
  await page.reload()
  await expect(page.getByRole('row', { name: 'Tides' })).toBeVisible()
  await browser.close()
})

test('a database server that is killed is started again, and both processes go on by themselves', async ({
  page,
}) => {
  await signUpByHand(page)
  await makeSiteByHand(page, 'Saltpan Chapel', 'Home\n  Visit')
  await allSaved(page)
  const pid = Number(readFileSync(process.env.E2E_DATABASE_PID!, 'utf8').split('\n')[0])
  process.kill(pid, 'SIGKILL')
  await page.getByRole('row', { name: 'Visit' }).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Tides')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Saved \d|^All saved/)).toBeVisible({ timeout: 45_000 })
  await page.reload()
  await expect(page.getByRole('row', { name: 'Tides' })).toBeVisible()
  const browser = await openBrowser()
  const other = await browser.newPage({ ignoreHTTPSErrors: true, baseURL: origin() })
  await signUpByHand(other)
  await browser.close()
})
