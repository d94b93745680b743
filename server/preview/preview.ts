import mime from 'mime-types'
import { forwardersOf } from '#core/build'
import { mergePath } from '#core/links'
import { encodePath, escapeText } from '#core/markup'
import { namesOf } from '#core/naming'
import { homeFileOf } from '#core/template'
import { accountOf, accountOfSessionName, sessionName, sessionToken } from '#server/accounts'
import { answerContent, missing } from '#server/contents'
import { Problem } from '#core/problems'
import { isSigned, notFound, pool, sign } from '#server/platform'
import { sharedLookOf } from '#server/notes'
import { buildForPage, textOfWhole, loadSite, type StoredSite } from '#server/sites'

/** How long an address opens the preview; the window that shows it asks for the next one before. */
const previewMinutes = 10

/**
 * The address of a site's preview for one session and some minutes. Author content runs in a sandbox of
 * no origin, which sends no cookies, so the right to see the site stands in the address: it is signed,
 * ends with the session, and is of no use to whoever is handed it later.
 */
export const previewBase = (request: Request, siteId: string, now = Date.now()): string =>
  baseFor(siteId, sessionName(sessionToken(request)!), now)

/** A session's short name never begins like this. */
const lookMark = '~'

/** The same for whoever holds the address of a look: it ends with the look. */
export const lookBase = (siteId: string, lookId: string, now = Date.now()): string =>
  baseFor(siteId, `${lookMark}${lookId}`, now)

function baseFor(siteId: string, name: string, now: number): string {
  const until = Math.ceil(now / 60_000) + previewMinutes
  return `/preview/${siteId}.${name}.${until}.${sign(`preview ${siteId} ${name} ${until}`)}/`
}

/** Tells the window that shows it that its address has run out; that one comes back with the next. */
const expired = (rest: string) =>
  `<script>parent.postMessage({ rubricantPreview: { expired: ${JSON.stringify(rest).replace(/</g, '\\u003c')} } }, '*')</script>`

/**
 * Reports title, place and revision to the page that shows the preview, and reloads when that asks for it. In a sandbox no frame may
 * lead another but those within it (HTML §7.4.2.1), so a link into another frame, or out of its own, is passed on to the
 * page that may: up to where the frame is found, or down from the page that is shown. What leads elsewhere, and
 * where a form would be sent, is told to the window around it: nothing but the site is shown here, and nothing is sent.
 */
const reporter = (siteBase: string, revision: number) => `<script>(() => {
  const isShown = parent === top
  const frames = () => [...document.querySelectorAll('frame, iframe')]
  const pass = (to, go) => to.postMessage({ rubricantGo: go }, '*')
  const take = (go) => {
    const { href, to } = go
    if (to === '_outside' || to === '_form') {
      if (isShown) parent.postMessage({ rubricantPreview: { [to.slice(1)]: href } }, '*')
      else pass(parent, go)
      return
    }
    if (!/^https?:/.test(href)) return
    if (to === '_self' || to === window.name || (to === '_top' && isShown)) return void (location.href = href)
    const frame = to === '_top' ? null : frames().find(({ name }) => name === to)
    if (frame) frame.contentWindow.location = href
    else if (!isShown && !go.isDown) pass(parent, go)
    else for (const one of frames()) pass(one.contentWindow, { ...go, isDown: true })
  }
  // What the page itself listens to is asked first.
  const later = (listen) => (document.readyState === 'loading' ? addEventListener('DOMContentLoaded', listen) : listen())
  later(() => addEventListener('click', (event) => {
    const link = event.target.closest && event.target.closest('a[href], area[href]')
    if (!link || event.defaultPrevented) return
    let goal
    try {
      goal = new URL(link.getAttribute('href'), document.baseURI)
    } catch {
      return
    }
    const { href } = goal
    if (/^(javascript|data|blob):$/.test(goal.protocol)) return
    if (goal.origin !== location.origin) {
      event.preventDefault()
      return void take({ href, to: '_outside' })
    }
    const base = document.querySelector('base[target]')
    const to = link.getAttribute('target') || (base && base.target) || ''
    const word = to.startsWith('_') ? to.toLowerCase() : to
    if (word === '' || word === '_self') return
    event.preventDefault()
    // A tab of its own is no part of the preview: the page comes here.
    if (word === '_blank') return take({ href, to: '_top' })
    if (word === '_parent' && !isShown) pass(parent, { href, to: '_self' })
    else take({ href, to: word === '_parent' ? '_self' : word })
  }))
  later(() => addEventListener('submit', (event) => {
    const { target: form, submitter } = event
    if (event.defaultPrevented || /^dialog$/i.test(form.getAttribute('method'))) return
    event.preventDefault()
    const { href } = new URL((submitter && submitter.getAttribute('formaction')) || form.getAttribute('action') || '', location)
    const own = location.origin + ${JSON.stringify(siteBase)}
    take({ href: href.startsWith(own) ? '/' + href.slice(own.length) : href, to: '_form' })
  }))
  addEventListener('message', ({ source, data }) => {
    if (source !== top && data && data.rubricantGo) take(data.rubricantGo)
  })
  // A page within the page tells nothing: where the window is is told by the one it shows.
  if (!isShown) return
  const base = ${JSON.stringify(siteBase)}
  const tell = () => parent.postMessage({ rubricantPreview: { path: decodeURI(location.pathname).slice(base.length), title: document.title, revision: ${revision} } }, '*')
  // A place of the page: an element by its name, counted from the top.
  const placeOf = (element) => ({ tag: element.localName, nth: [...document.getElementsByTagName(element.localName)].indexOf(element), quote: (element.textContent || element.getAttribute('alt') || '').trim().replace(/\\s+/g, ' ').slice(0, 120) })
  addEventListener('message', ({ source, data }) => {
    if (source !== parent) return
    if (data === 'rubricant-tell') tell()
    if (data === 'rubricant-reload') {
      parent.postMessage({ rubricantPreview: { reloads: true } }, '*')
      location.reload()
    }
    const place = data && data.rubricantShow
    const element = place && document.getElementsByTagName(place.tag)[place.nth]
    if (!element) return
    element.scrollIntoView({ block: 'nearest' })
    element.animate([{ outline: '2px solid #3a5ba8' }, { outline: '2px solid transparent' }], 900)
  })
  addEventListener('click', ({ target }) => {
    if (!target.closest || target.closest('a[href], button, input, select, textarea, summary, label')) return
    parent.postMessage({ rubricantPreview: { path: decodeURI(location.pathname).slice(base.length), place: placeOf(target) } }, '*')
  })
  later(tell)
  addEventListener('hashchange', tell)
})()</script>`

/**
 * Whether a page may be shown within a page of the site, which has no origin that could be named as one that may. What the
 * frame itself goes on to looks the same from here.
 */
const mayBeWithin = (request: Request) =>
  request.headers.get('sec-fetch-site') === 'cross-site' &&
  /^(i?frame|embed|object)$/.test(request.headers.get('sec-fetch-dest') ?? '')

function policy(isPage: boolean, isWithin = false): string {
  const script = isPage ? `script-src 'self' 'unsafe-inline'` : `script-src 'self'`
  return [
    'sandbox allow-scripts allow-forms',
    `default-src 'self' data: blob:`,
    script,
    `style-src 'self' 'unsafe-inline'`,
    `connect-src 'none'`,
    `form-action 'none'`,
    `base-uri 'self'`,
    // Within another it is its address alone that opens it, as everywhere: it is signed, and ends.
    ...(isWithin ? [] : [`frame-ancestors 'self'`]),
  ].join('; ')
}

const page = (status: number, title: string, text: string, script: string): Response =>
  new Response(
    `<!DOCTYPE html>\n<html lang="en"><meta charset="utf-8"><title>${title}</title><body style="font: 16px/1.5 sans-serif; padding: 2rem; color: #221d17; background: #fbf8f2"><h1 style="font-size: 1.4rem">${title}</h1><p>${text}</p>${script}</body></html>\n`,
    {
      status,
      headers: {
        'content-type': 'text/html; charset=utf-8',
        'content-security-policy': policy(true),
        'cache-control': 'no-store',
      },
    },
  )

/** A page of its own, outside the sandboxed frame. */
const isAlone = (request: Request) => request.headers.get('sec-fetch-dest') === 'document'

/** The site of an address that was made for a session; null for anybody else. */
async function siteOfSession(request: Request, siteId: string, name: string): Promise<StoredSite | null> {
  const account = await accountOfSessionName(name)
  if (!account) return null
  // Whoever says who they are has to be the one the address was made for; and a page of its own has cookies to show.
  const visitor = await accountOf(request)
  if (visitor ? visitor.id !== account.id : isAlone(request)) return null
  return loadSite(pool(), siteId, account.id)
}

/** The site of an address that was made for a look: shown in its frame, to whoever holds it. */
async function siteOfLook(request: Request, siteId: string, lookId: string): Promise<StoredSite | null> {
  const look = isAlone(request) ? null : await sharedLookOf(lookId)
  return look?.site.id === siteId ? look : null
}

/**
 * Answers a request for a file of a site as a host would: a folder stands for its home file, case
 * counts, what is not there is 404.
 * @param token the first path segment after `/preview/`
 * @param rest the path in the site, still percent-encoded
 */
export async function servePreview(request: Request, token: string, rest: string): Promise<Response> {
  const [siteId, name, until, signature] = token.split('.')
  if (!siteId || !name || !until || !signature) throw notFound()
  if (!isSigned(`preview ${siteId} ${name} ${until}`, signature)) throw notFound()
  if (Number(until) * 60_000 < Date.now())
    return page(410, 'One moment', 'The preview is shown again at once.', expired(rest))
  const stored = name.startsWith(lookMark)
    ? await siteOfLook(request, siteId, name.slice(lookMark.length))
    : await siteOfSession(request, siteId, name)
  if (!stored) throw notFound()
  const { site } = stored
  const names = namesOf(site)
  const homeFile = homeFileOf(site)
  const base = `/preview/${token}/`
  const isWithin = mayBeWithin(request)
  const script = reporter(base, stored.revision)

  let wanted: string
  try {
    wanted = mergePath('', decodeURIComponent(rest))
  } catch {
    return page(400, 'Bad address', 'This address is not well formed.', script)
  }
  const file = wanted === '' || wanted.endsWith('/') ? wanted + homeFile : wanted
  const hit = names.byPath.get(file)
  if (!hit) {
    const forwarder = forwardersOf(site).find((one) => one.path === file)
    if (forwarder)
      return new Response(null, { status: 302, headers: { location: base + encodePath(forwarder.to) } })
    if (names.byPath.has(`${wanted}/${homeFile}`))
      return new Response(null, { status: 301, headers: { location: `${base}${rest}/` } })
    return page(
      404,
      'Not found',
      'No page or file of the site has this address. On a host, visitors would see its “not found” page.',
      script,
    )
  }
  const headers = { 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' }
  const type = mime.contentType(file.slice(file.lastIndexOf('/') + 1)) || 'application/octet-stream'
  if (hit.kind === 'file') {
    const entry = site.files.find((one) => one.id === hit.id)
    // A drawing opened by itself is a document too, so it gets the same sandbox.
    const told = {
      ...headers,
      'content-type': type,
      'content-security-policy': policy(false, isWithin),
      'access-control-allow-origin': '*',
    }
    if (entry && entry.kind !== 'style') {
      const answer = await answerContent(entry.hash, request, told)
      if (!answer) throw missing()
      return answer
    }
    // A style sheet comes out with its references made right.
    const text = entry
      ? (await buildForPage(pool(), site, '')).textOf(entry.id)
      : textOfWhole(pool(), site, hit.id)
    return new Response(await text, { headers: told })
  }
  let html: string
  try {
    html = (await buildForPage(pool(), site, hit.id)).textOf(hit.id)
  } catch (error) {
    if (!(error instanceof Problem)) throw error
    return page(error.status, 'This page cannot be shown', escapeText(error.message), script)
  }
  const at = placeOfScript(html)
  const shown = html.slice(0, at) + script + html.slice(at)
  return new Response(shown, {
    headers: {
      ...headers,
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy': policy(true, isWithin),
    },
  })
}

/**
 * Where a script can be put into a page so that it runs whatever is wrong in what follows, as while a tag is typed: behind the
 * doctype, or in front of all where there is none. It opens the head, whose own tag, and that of `html`, then say what they say
 * all the same (HTML §13.2.6.4.2, §13.2.6.4.4). The delivered page has none.
 */
function placeOfScript(html: string): number {
  for (let at = 0; ;) {
    while (at < html.length && /[\s\ufeff]/.test(html[at]!)) at++
    const isComment = html.startsWith('<!--', at)
    if (!isComment && !html.startsWith('<?', at)) {
      const isDoctype = html.slice(at, at + '<!doctype'.length).toLowerCase() === '<!doctype'
      return isDoctype ? html.indexOf('>', at) + 1 : 0
    }
    const end = html.indexOf(isComment ? '-->' : '>', at)
    if (end < 0) return 0
    at = end + (isComment ? '-->'.length : 1)
  }
}
