import { relativePlain, relativeReference } from '#core/links'
import { encodePath } from '#core/markup'
import type { Site } from '#core/site'

/** The home file's name, which stands for its folder. */
export const homeFileOf = (site: Pick<Site, 'scheme'>): string => site.scheme.homeName + site.scheme.extension

/** How what comes out names pages and files, where that is not the usual way: from where it stands, each by its file. */
export interface Addressing {
  /** The name of home files that are left out, so that links name their folders; null where all files are named. */
  readonly homeFile: string | null
  /** The folder that visitors see the site in, from `/` to `/`; null where that is not known. */
  readonly publicPath: string | null
}

/** Null for the usual way. */
export function addressingOf(
  site: Pick<Site, 'scheme' | 'output'>,
  publicPath: string | null,
): Addressing | null {
  const homeFile = site.output.links === 'folders' ? homeFileOf(site) : null
  return homeFile === null && publicPath === null ? null : { homeFile, publicPath }
}

/** The folder of a public address, as references to it begin; null where it is none, or has letters that would need care. */
export function publicPathOf(address: string | null): string | null {
  if (address === null || !URL.canParse(address)) return null
  const path = new URL(address).pathname.replace(/\/?$/, '/')
  return /^\/(?:[\w.~-]+\/)*$/.test(path) ? path : null
}

/**
 * Whether a host shows a page in place of others, under their addresses: one that is called by a status of HTTP (RFC 9110
 * §15.5, §15.6), or what its author is likely to name for one.
 */
export const isErrorPage = (path: string): boolean => /^(?:[45]\d\d|not-?found)\.\w+$/i.test(path)

/** Whether references of a file are written from the top: it is shown where relative ones lead elsewhere. */
export const isShownAnywhere = (addressing: Addressing | null, path: string): boolean =>
  addressing !== null && addressing.publicPath !== null && isErrorPage(path)

/**
 * A page or file of the site as a reference to it is written in what comes out.
 * @param from the path of what the reference stands in
 * @param isPlain whether `to` is written as it is everywhere
 */
export function addressFrom(
  addressing: Addressing | null,
  from: string,
  to: string,
  isPlain: boolean,
): string {
  if (addressing !== null) {
    const { homeFile, publicPath } = addressing
    const isHome = homeFile !== null && (to === homeFile || to.endsWith(`/${homeFile}`))
    const shown = isHome ? to.slice(0, -homeFile.length) : to
    if (publicPath !== null && isErrorPage(from)) return publicPath + encodePath(shown)
    if (isHome) return relativeReference(from, shown)
  }
  return isPlain ? relativePlain(from, to) : relativeReference(from, to)
}
