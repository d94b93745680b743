import { readFileSync } from 'node:fs'
import path from 'node:path'
import { type APIRequestContext, expect, test } from '@playwright/test'
import { mayRole, type Right, type Role } from '#core/site'
import routes from '../app/routes'
import { addPracticeHost, makeSite, openView, pick, signUp } from './support'

/** Who reaches a route: anybody, whoever is signed in, or who has a right in the site. */
type Needs = 'anybody' | 'account' | Right
interface Entry {
  readonly get?: Needs
  readonly post?: Needs
  /** Added to the address, so that whoever may is not refused for another reason. */
  readonly query?: string
}

const look = { get: 'look' } as const
/** Every route. One that is not listed fails the test: somebody has to say whom it is for. */
const table: Readonly<Record<string, Entry>> = {
  '': { get: 'account' },
  'sign-in': { get: 'anybody', post: 'anybody' },
  // For whoever has typed a right password, which a signed cookie says (`account.spec.ts`).
  'sign-in/second': { get: 'anybody', post: 'anybody' },
  'sign-up': { get: 'anybody', post: 'anybody' },
  // Where signing in again ends, and whose cookie a browser has: its own alone.
  'sign-in/again': { get: 'account' },
  session: { get: 'anybody' },
  'sign-out': { get: 'anybody', post: 'anybody' },
  account: { get: 'account', post: 'account' },
  forgotten: { post: 'anybody' },
  // Their addresses come by mail, are good once and for an hour (`account.spec.ts`).
  'new-password/:token': { get: 'anybody', post: 'anybody' },
  'new-account/:token': { get: 'anybody', post: 'anybody' },
  'new-address/:token': { post: 'anybody' },
  schemes: { get: 'account', post: 'account' },
  kits: { get: 'account', post: 'account' },
  'kits/take-in': { post: 'account' },
  'kits/:kitId/look': { get: 'account' },
  'kits/:kitId/picture': { get: 'account' },
  'kits/:kitId/kit.zip': { get: 'account' },
  sites: { get: 'account', post: 'account' },
  'sites/new': { get: 'account', post: 'account' },
  'sites/bring': { get: 'account' },
  'sites/take-in': { post: 'account' },
  bringing: { post: 'account' },
  'bringing/:bringingId': { get: 'account', post: 'account' },
  'bringing/:bringingId/files': { post: 'account' },
  'bringing/:bringingId/uploads/:uploadId': { get: 'account', post: 'account' },
  'bringing/:bringingId/from-host': { post: 'account' },
  // Its address is the key, kept from the log; it ends, and is withdrawn (`notes.spec.ts`).
  'looks/:token': { get: 'anybody' },
  'looks/:token/notes': { post: 'anybody' },
  'invitations/:token': { get: 'account', post: 'account' },
  'sites/:siteId': look,
  'sites/:siteId/': look,
  'sites/:siteId/plan': { get: 'look', post: 'write' },
  'sites/:siteId/names': look,
  'sites/:siteId/template': look,
  'sites/:siteId/pages': look,
  'sites/:siteId/checks': look,
  'sites/:siteId/checks/': {},
  'sites/:siteId/checks/links': look,
  'sites/:siteId/checks/weight': look,
  'sites/:siteId/checks/finished': look,
  'sites/:siteId/checks/outside': look,
  'sites/:siteId/checks/words': {},
  'sites/:siteId/checks/spelling': {},
  'sites/:siteId/spelling': { post: 'look' },
  'sites/:siteId/spelling/word': { get: 'look', post: 'write', query: 'word=home&language=en' },
  'sites/:siteId/words': { get: 'look', post: 'write', query: 'words=home' },
  'sites/:siteId/upload': { get: 'deliver', post: 'deliver' },
  'sites/:siteId/look': look,
  'sites/:siteId/people': { get: 'look', post: 'manage' },
  'sites/:siteId/changes': { get: 'look', post: 'write', query: 'seen=0' },
  'sites/:siteId/ripple': { post: 'write' },
  'sites/:siteId/places': { get: 'look', query: 'q=home' },
  'sites/:siteId/outside': { post: 'write' },
  'sites/:siteId/as-seen': { post: 'deliver' },
  'sites/:siteId/compare': { post: 'deliver' },
  'sites/:siteId/difference': { get: 'deliver' },
  'sites/:siteId/there.zip': { get: 'deliver' },
  'sites/:siteId/find-way': { post: 'deliver' },
  'sites/:siteId/take-there': { post: 'deliver' },
  'sites/:siteId/deliveries/:deliveryId': { get: 'deliver' },
  'sites/:siteId/finished-pages': { post: 'write' },
  'sites/:siteId/versions': look,
  'sites/:siteId/files': { get: 'look', post: 'write' },
  'sites/:siteId/files/from-outside': { post: 'write' },
  'sites/:siteId/uploads/:uploadId': { get: 'write', post: 'write' },
  'sites/:siteId/files/:fileId': look,
  'sites/:siteId/events': look,
  'sites/:siteId/notes': { get: 'look', post: 'look' },
  'sites/:siteId/presence': { post: 'look' },
  'sites/:siteId/texts/:hash': look,
  'sites/:siteId/results/:pageId': look,
  'sites/:siteId/preview-address': look,
  'sites/:siteId/kit': { post: 'look' },
  'sites/:siteId/zips': look,
  'sites/:siteId/site.zip': look,
  'sites/:siteId/made': { get: 'look', post: 'look' },
  'sites/:siteId/archive.zip': { get: 'manage' },
  // Its address is the key: signed, for one session and ten minutes (`ownership.spec.ts`).
  'preview/:token/*': { get: 'anybody' },
}

interface Route {
  readonly path?: string
  readonly index?: boolean
  readonly file: string
  readonly children?: readonly Route[]
}

/** Every route by its whole path, with what its module answers. */
function flat(list: readonly Route[], above = ''): { at: string; get: boolean; post: boolean }[] {
  return list.flatMap(({ path: own = '', index, file, children = [] }) => {
    const at = index ? (above === '' ? '' : `${above}/`) : [above, own].filter(Boolean).join('/')
    const source = readFileSync(path.join('app', file), 'utf8')
    const answers = (name: string) =>
      new RegExp(`export (async function|const|function) ${name}\\b`).test(source)
    return [{ at, get: answers('loader'), post: answers('action') }, ...flat(children, at)]
  })
}

test('every route and action is for those it is listed for, and for nobody else', async ({
  page,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)

  // Listed is what there is, method by method.
  const found = flat(routes as readonly Route[])
  const listed = Object.entries(table)
  expect(found.map(({ at }) => at).sort()).toEqual(listed.map(([at]) => at).sort())
  expect(listed.map(([at, { get, post }]) => ({ at, get: Boolean(get), post: Boolean(post) }))).toEqual(
    listed.map(([at]) => found.find((one) => one.at === at)),
  )

  const addressFor = async (gives: 'writer' | 'partner') => {
    await page.goto(`/sites/${siteId}/people`)
    await pick(page, 'As what', new RegExp(`a ${gives}`))
    await page.getByRole('button', { name: 'Make the address' }).click()
    return page.getByLabel('The address to hand out').inputValue()
  }
  const visitors = new Map<Role | 'stranger' | 'nobody', APIRequestContext>()
  visitors.set('owner', page.request)
  for (const who of ['partner', 'writer', 'reader', 'stranger', 'nobody'] as const) {
    const context = await playwright.request.newContext({ baseURL })
    visitors.set(who, context)
    if (who === 'nobody') continue
    const form = { email: `${who}.${siteId}@saltpan.example`, password: 'three wet herons' }
    await context.post('/sign-up', { form })
    await context.post('/sign-in', { form })
    if (who === 'stranger') continue
    const invitation = await addressFor(who === 'partner' ? 'partner' : 'writer')
    expect((await context.post(invitation, { maxRedirects: 0 })).status()).toBe(302)
  }
  // Who was a writer is made a reader.
  await page.goto(`/sites/${siteId}/people`)
  await page.getByLabel(`What reader.${siteId} may do`).selectOption('reader')
  await expect(page.getByLabel(`What reader.${siteId} may do`)).toHaveValue('reader')
  await page.reload()
  await expect(page.getByLabel(`What reader.${siteId} may do`)).toHaveValue('reader')

  const other = '11111111-1111-4111-8111-111111111111'
  const addressOf = (at: string, query = '') =>
    `/${at.replace(':siteId', siteId).replace('/*', '/').replace(/:hash/, 'a'.repeat(64)).replace(/:\w+/g, other).replace(/\/$/, '')}${query && `?${query}`}`
  const wrong: string[] = []
  for (const [at, { get, post, query }] of listed)
    for (const [method, needs] of [
      ['get', get],
      ['post', post],
    ] as const) {
      if (!needs || (at.endsWith('/events') && method === 'get')) continue
      for (const [who, request] of visitors) {
        // What would end the session that the others are tried with.
        if (at === 'sign-out') continue
        const answer = await request[method](addressOf(at, query), {
          maxRedirects: 0,
          ...(method === 'post' && { form: { nothing: 'of use' } }),
        })
        const status = answer.status()
        const isSentToSignIn = status === 302 && (answer.headers().location ?? '').startsWith('/sign-in')
        const isOfSite = needs !== 'anybody' && needs !== 'account'
        const expected =
          needs === 'anybody' || (needs === 'account' && who !== 'nobody')
            ? 'let in'
            : who === 'nobody'
              ? 'sign in'
              : who === 'stranger'
                ? 404
                : isOfSite && mayRole(who, needs)
                  ? 'let in'
                  : 403
        const was =
          expected === 'sign in'
            ? isSentToSignIn
            : expected === 'let in'
              ? !isSentToSignIn && status !== 403 && status < 500
              : status === expected
        if (!was) wrong.push(`${method} ${at} as ${who}: ${status}, not ${expected}`)
      }
    }
  expect(wrong).toEqual([])
  for (const [who, context] of visitors) if (who !== 'owner') await context.dispose()
})
