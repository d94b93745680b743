import { randomUUID } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { applyEdits } from '#core/markup'
import { clashKey, nameLabel } from '#core/naming'
import { planSite, readOutline } from '#core/plan'
import { defaultScheme, emptyHash } from '#core/site'
import { sayFeed } from '#core/template'
import { type Account, findAccount, hasMilestone, setMilestone, signUp } from '#server/accounts'
import { config, log, pool } from '#server/platform'
import { getTexts, putBlob } from '#server/contents'
import { changeSite, createSite, deleteSite, listSites, loadSite, passAll } from '#server/sites'
import { saveDestination, testDestination } from '#server/deliveries'

const email = 'keeper@marrowskerry.example'
const milestone = 'demo site loaded'
const siteName = 'Marrow Skerry Light'

/** The demo account, made when it is asked for first. Nobody can sign in to it by a password. */
export async function demoAccount(): Promise<Account> {
  // Made by two processes at once, one of them finds it made.
  const made =
    (await findAccount(pool(), email)) ??
    (await signUp(email, randomUUID())) ??
    (await findAccount(pool(), email))
  return { id: made!.id, email: made!.email, name: made!.name }
}

/**
 * Loads the demo site through the doors that a user's actions go through: a plan in text, then each
 * page's text and description, the drawings, and a destination at the practice host. Once; a site
 * that somebody removed stays removed.
 */
export async function loadDemo(folder = path.resolve('demo')): Promise<void> {
  if (await hasMilestone(pool(), milestone)) return
  const account = await demoAccount()
  // Whatever is there was left by a start that was cut off half-way.
  for (const { id, role } of await listSites(pool(), account.id))
    if (role === 'owner') await deleteSite(pool(), id, account.id)
  const plan = planSite(readOutline(await readFile(path.join(folder, 'plan.txt'), 'utf8')), siteName)
  const siteId = await createSite(account.id, { name: siteName, language: 'en', plan })

  for (const [from, fileKind] of [
    ['images', 'image'],
    ['documents', 'document'],
  ] as const)
    for (const label of (await readdir(path.join(folder, from))).sort()) {
      const bytes = await readFile(path.join(folder, from, label))
      await changeSite(siteId, account.id, 0, async (client) => ({
        kind: 'addFile',
        id: randomUUID(),
        fileKind,
        label,
        hash: await putBlob(client, bytes),
        sizeBytes: bytes.length,
      }))
    }
  const texts = new Map(
    await Promise.all(
      (await readdir(path.join(folder, 'pages'))).map(
        async (name) =>
          [
            clashKey(path.parse(name).name),
            await readFile(path.join(folder, 'pages', name), 'utf8'),
          ] as const,
      ),
    ),
  )
  const { site } = (await loadSite(pool(), siteId, account.id))!
  for (const page of site.pages) {
    const text = texts.get(nameLabel(page.label, defaultScheme, 'en').name)
    if (text === undefined) throw new Error(`demo/pages has no text for “${page.label}”`)
    const [, description, html] = /^(?:<!-- (.*) -->\n)?([\s\S]*)$/.exec(text)!
    await changeSite(siteId, account.id, 0, async (client) => ({
      kind: 'setContent',
      pageId: page.id,
      content: await putBlob(client, html!),
      was: page.content,
    }))
    if (description)
      await changeSite(siteId, account.id, 0, () => ({
        kind: 'setPageText',
        pageId: page.id,
        field: 'description',
        value: description,
        was: null,
      }))
  }
  await addTemplate(siteId, account.id, folder)
  await fillSlots(siteId, account.id, path.join(folder, 'slots'))
  await dateTheLog(siteId, account.id)
  const publicAddress = { kind: 'setSetting', field: 'publicAddress', value: 'https://marrow-skerry.example/', was: '' } as const // prettier-ignore
  await changeSite(siteId, account.id, 0, () => publicAddress)
  await addPracticeHost(siteId, account.id)
  await passAll(pool(), siteId)
  await setMilestone(pool(), milestone)
  log.info({ siteId }, 'demo site loaded')
}

/** A second template, based on the first, for the pages below two of the sections. */
async function addTemplate(siteId: string, accountId: string, folder: string): Promise<void> {
  const { site } = (await loadSite(pool(), siteId, accountId))!
  const templateId = randomUUID()
  const source = await readFile(path.join(folder, 'templates', 'with-a-side.html'), 'utf8')
  await changeSite(siteId, accountId, 0, async (client) => ({
    kind: 'addTemplate',
    templateId,
    name: 'With a side',
    source: await putBlob(client, source),
    basedOn: site.templateId,
  }))
  const pageIds = site.pages.filter(({ label }) => label === 'Visit' || label === 'Birds').map(({ id }) => id)
  await changeSite(siteId, accountId, 0, () => ({ kind: 'chooseTemplate', pageIds, of: 'below', templateId }))
}

/** The seasons of the log are dated, and told of in a feed, which every page names. */
async function dateTheLog(siteId: string, accountId: string): Promise<void> {
  const { site } = (await loadSite(pool(), siteId, accountId))!
  const pageIds = site.pages.filter(({ label }) => label === 'Ringing log').map(({ id }) => id)
  await changeSite(siteId, accountId, 0, () => ({ kind: 'setPageFlag', pageIds, flag: 'dated', value: true }))
  const { id: templateId, source: was } = site.templates.find(({ id }) => id === site.templateId)!
  const html = (await getTexts(pool(), [was])).get(was)!
  await changeSite(siteId, accountId, 0, async (client) => ({
    kind: 'setTemplate',
    templateId,
    source: await putBlob(client, applyEdits(html, sayFeed(html))),
    was,
  }))
  const output = { ...site.output, feed: true } as const
  await changeSite(siteId, accountId, 0, () => ({ kind: 'setOutput', output, was: site.output }))
}

/** What pages hold in further slots: a file each, `page.slot.html`. */
async function fillSlots(siteId: string, accountId: string, folder: string): Promise<void> {
  const { site } = (await loadSite(pool(), siteId, accountId))!
  for (const name of (await readdir(folder)).sort()) {
    const [pageName, slot] = name.split('.')
    const page = site.pages.find(({ label }) => nameLabel(label, defaultScheme, 'en').name === pageName)
    if (!page || !slot) throw new Error(`demo/slots/${name} is for no page`)
    const html = await readFile(path.join(folder, name), 'utf8')
    await changeSite(siteId, accountId, 0, async (client) => ({
      kind: 'setContent',
      pageId: page.id,
      slot,
      content: await putBlob(client, html),
      was: emptyHash,
    }))
  }
}

async function addPracticeHost(siteId: string, accountId: string): Promise<void> {
  const { demo } = config()
  if (!demo) return
  const form = {
    name: 'Practice host',
    protocol: 'sftp',
    host: '127.0.0.1',
    port: demo.sftpPort,
    account: demo.account,
    password: demo.password,
    folder: 'public',
    publicAddress: demo.publicAddress,
  }
  const owner = { siteId, accountId }
  const { hostKey } = await testDestination(form, null, owner, null)
  await saveDestination(form, null, owner, hostKey)
}
