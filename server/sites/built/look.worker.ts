import axe from 'axe-core'
import { type ConfigData, HtmlValidate, type ResolvedConfig, StaticConfigLoader } from 'html-validate'
import { JSDOM } from 'jsdom'
import { findPoorContrast } from '#core/colours'
import { type BuiltFault, colourFault } from '#core/findings'
import type { Hash } from '#core/site'

/** Resolving the configuration costs more than reading a page, so it is done once. */
class OnceLoader extends StaticConfigLoader {
  #resolved: ResolvedConfig | Promise<ResolvedConfig> | null = null
  override getConfigFor(handle: string, override?: ConfigData) {
    return (this.#resolved ??= super.getConfigFor(handle, override))
  }
}

/** What has a rule of ours, which tells where it stands in what the author wrote. */
const toldElsewhere = new Set(['no-dup-id', 'no-dup-attr', 'close-order', 'close-attr', 'parser-error', 'wcag/h30', 'wcag/h37', 'wcag/h63', 'wcag/h67', 'heading-level', 'empty-heading', 'no-deprecated-attr', 'deprecated', 'missing-doctype', 'empty-title', 'input-missing-label', 'text-content']) // prettier-ignore
const isAboutLanguage = /^<html> is missing required "lang"/i
const axeToldElsewhere = ['image-alt', 'link-name', 'empty-heading', 'heading-order', 'page-has-heading-one', 'document-title', 'html-has-lang', 'meta-viewport', 'label', 'duplicate-id'] // prettier-ignore

const validator = new HtmlValidate(new OnceLoader({ extends: ['html-validate:standard'] }))

/** Faults of one page that are told; of more, the first are mended first. */
const mostFaults = 100
const longestPiece = 160

const sentence = (text: string) => (/[.!?]$/.test(text) ? text : `${text}.`)
const pieceOf = (text: string) => text.replace(/\s+/g, ' ').trim().slice(0, longestPiece)

async function byStandard(html: string): Promise<BuiltFault[]> {
  const report = await validator.validateString(html)
  return report.results
    .flatMap(({ messages }) => messages)
    .filter(({ ruleId, message }) => !toldElsewhere.has(ruleId) && !isAboutLanguage.test(message))
    .map(({ ruleId, message, offset, line }) => ({
      rule: 'built-markup',
      code: ruleId,
      what: sentence(message),
      piece: pieceOf(tagAt(html, offset)),
      line,
    }))
}

/** The tag that a place stands in. */
function tagAt(html: string, offset: number): string {
  const start = html[offset] === '<' ? offset : html.lastIndexOf('<', offset)
  const end = html.indexOf('>', offset)
  return html.slice(Math.max(0, start), end < 0 ? offset + longestPiece : end + 1)
}

/** Nothing of the page runs or is fetched: its markup alone is looked at, and colours are not known. */
async function byAccessibility(html: string): Promise<BuiltFault[]> {
  const dom = new JSDOM(html, {
    runScripts: 'outside-only',
    url: 'https://page.invalid/',
    includeNodeLocations: true,
  })
  try {
    const { window } = dom
    window.eval(axe.source)
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(window.document, {
      resultTypes: ['violations'],
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
      rules: Object.fromEntries(
        ['color-contrast', 'target-size', ...axeToldElsewhere].map((id) => [id, { enabled: false }]),
      ),
    })
    return violations.flatMap(({ id, impact, help, nodes }) =>
      nodes.map((node) => ({
        rule:
          impact === 'critical' || impact === 'serious' ? 'built-accessibility-grave' : 'built-accessibility',
        code: id,
        what: sentence(help),
        piece: pieceOf(node.html),
        ...lineOf(dom, node.target[0]),
      })),
    )
  } finally {
    dom.window.close()
  }
}

/** Where what a selector leads to was written; nothing for what the parser added. */
function lineOf(dom: JSDOM, selector: unknown): { line?: number } {
  if (typeof selector !== 'string') return {}
  const element = dom.window.document.querySelector(selector)
  const where = element && dom.nodeLocation(element)
  return where && 'startLine' in where ? { line: where.startLine } : {}
}

/** A finished page, and what is to be looked at in it: what was looked at before as it is now is left out. */
export interface LookTask {
  readonly html: string
  readonly markup: boolean
  /** For its colours: where it stands, and the style sheets of its site as they come out. */
  readonly colours: {
    readonly path: string
    readonly sheets: ReadonlyMap<string, { readonly hash: Hash; readonly text: string }>
  } | null
}

/** What was found of each that was looked at. */
export interface Looked {
  readonly markup: BuiltFault[] | null
  readonly colours: BuiltFault[] | null
}

/** Looks at one finished page. Runs in a thread of its own, which is ended when it takes too long or too much. */
export default async function look({ html, markup, colours }: LookTask): Promise<Looked> {
  return {
    markup: markup
      ? [...(await byStandard(html)), ...(await byAccessibility(html))].slice(0, mostFaults)
      : null,
    colours:
      colours &&
      findPoorContrast({
        html,
        path: colours.path,
        sheetAt: (path) => colours.sheets.get(path)?.text ?? null,
      }).map((found) => colourFault(found, (path) => colours.sheets.get(path)?.hash)),
  }
}
