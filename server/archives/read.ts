import Joi from 'joi'
import { outputInput, schemeInput } from '#core/change/inputs'
import { longestLabel } from '#core/change'
import { publicAddressOf } from '#core/links'
import { checkDate } from '#core/language'
import { namesOf } from '#core/naming'
import { cleanLabel, mostLevels, treeOf } from '#core/plan'
import {
  checkSite,
  emptyHash,
  type Hash,
  mainSlot,
  mostAsides,
  mostOwnWords,
  type Page,
  type Site,
  type SiteFile,
  type Template,
} from '#core/site'
import { longestTold } from '#core/spelling'
import { Problem } from '#core/problems'
import { parseJson } from '#server/platform'
import { type ArchivedPage, format, type Manifest, manifestName, version } from './layout'

const bad = (why: string) => new Problem('bad-archive', { why })

/** What one archive may hold of each. */
const mostPages = 60_000
const mostFiles = 100_000
const mostTemplates = 100
const mostVersions = 100_000
const longestLine = 20_000

const id = Joi.string().guid({ version: 'uuidv4' }).required()
const seq = Joi.number().integer().min(0).max(2_000_000_000).required()
const line = Joi.string().max(longestLine)
const file = Joi.string().max(1_000).required()
const moment = Joi.string().isoDate().required()
const person = Joi.string().max(200).allow('').required()
const label = Joi.string().min(1).max(longestLabel).required()
/** A tag of a language by its shape: a site of before may have one that is none. */
const tag = /^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/
/** A path in a site, as visitors ask for it. */
const sitePath = Joi.string()
  .max(2_000)
  .pattern(/^(?!\/)(?!.*(^|\/)\.{1,2}(\/|$))[^\u0000-\u001f\\]*$/)

/** A name of a file: part of a path, and none by itself. */
const keptName = sitePath
  .min(1)
  .max(300)
  .pattern(/^[^/]+$/)
/** The same, or a path from the top, which begins with a slash. */
const ownName = Joi.alternatives(
  keptName,
  Joi.string()
    .max(300)
    .pattern(/^(\/(?!\.)[^/\u0000-\u001f\\]+)+\/?$/),
)

/** Files of the archive by slot. */
const texts = Joi.object().pattern(Joi.string().min(1).max(100), file).max(200).required()

const page = Joi.object({
  id,
  parentId: id.allow(null),
  order: Joi.string().max(500).required(),
  seq,
  label,
  ownName: ownName.allow(null).required(),
  keptName: keptName.allow(null).required(),
  title: line.allow(null).required(),
  // Archives of before say nothing of it.
  titleAlone: Joi.boolean().default(false),
  description: line.allow(null).required(),
  trial: Joi.boolean().required(),
  inMenus: Joi.boolean().required(),
  dated: Joi.boolean().required(),
  date: Joi.string().max(10).allow(null).required(),
  // Archives of before say nothing of it.
  language: Joi.string().max(300).pattern(tag).allow(null).default(null),
  translationSet: Joi.string().max(100).allow(null).default(null),
  addresses: Joi.array().items(sitePath).max(1_000).required(),
  templateId: id.allow(null),
  belowTemplateId: id.allow(null),
  texts,
  translatedFrom: Joi.object({ ofId: id, texts }),
})

const manifestInput = Joi.object<Manifest>({
  format: Joi.valid(format).required(),
  version: Joi.valid(version).required(),
  name: Joi.string().min(1).max(300).required(),
  language: Joi.string().max(300).pattern(tag).required(),
  titlePattern: Joi.string().max(300).allow('').required(),
  homeTitlePattern: Joi.string().max(300).allow('').required(),
  // Archives of before say nothing of it.
  publicAddress: Joi.string()
    .max(500)
    .allow('')
    .default('')
    .custom((typed: string) => (typed === '' ? '' : (publicAddressOf(typed) ?? ''))),
  homeId: id,
  templateId: id,
  output: outputInput,
  checking: Joi.object({
    asides: Joi.object()
      .pattern(
        Joi.string().max(4_000),
        Joi.object({ what: Joi.string().max(8_000).required(), reason: Joi.string().max(500).required() }),
      )
      .max(mostAsides)
      .required(),
    mostPageBytes: Joi.number().integer().min(1).max(1e12).required(),
  }).required(),
  // Archives of before say nothing of it.
  ownWords: Joi.array().items(Joi.string().min(1).max(longestTold)).unique().max(mostOwnWords).default([]),
  scheme: schemeInput.required(),
  nextSeq: seq,
  templates: Joi.array()
    .items(Joi.object({ id, name: Joi.string().min(1).max(100).required(), basedOn: id.allow(null), file }))
    .min(1)
    .max(mostTemplates)
    .required(),
  pages: Joi.array().items(page).min(1).max(mostPages).required(),
  files: Joi.array()
    .items(
      Joi.object({
        id,
        kind: Joi.valid('image', 'style', 'script', 'document', 'other').required(),
        label,
        seq,
        file,
      }),
    )
    .max(mostFiles)
    .required(),
  versions: Joi.array()
    .items(
      Joi.object({
        of: Joi.valid('content', 'template', 'file').required(),
        id,
        slot: Joi.string().max(100).allow(null).required(),
        file,
        until: moment,
        by: person.allow(null),
      }),
    )
    .max(mostVersions)
    .required(),
  notes: Joi.array()
    .items(
      Joi.object({
        pageId: id.allow(null),
        place: Joi.object({
          tag: Joi.string().max(100).required(),
          nth: Joi.number().integer().min(0).max(2_000_000_000).required(),
          quote: Joi.string().max(200).allow('').required(),
        })
          .allow(null)
          .required(),
        author: person,
        text: Joi.string().max(4_000).required(),
        madeAt: moment,
        settled: Joi.object({
          at: moment,
          by: person,
          with: Joi.string().max(1_000).allow(null).required(),
        })
          .allow(null)
          .required(),
        answers: Joi.array()
          .items(Joi.object({ author: person, text: Joi.string().max(4_000).required(), madeAt: moment }))
          .max(100)
          .required(),
      }),
    )
    .max(2_000)
    .required(),
})

/** What an archive's manifest says. @throws Problem `bad-archive` */
export function readManifest(text: string): Manifest {
  const json = parseJson(text)
  if (json === null) throw bad(`Its ${manifestName} is no JSON.`)
  const { value, error } = manifestInput.validate(json)
  if (error) throw bad(`In its ${manifestName}, ${error.message.slice(0, 300)}.`)
  return value
}

/** A content of the archive, read and found fit for what it is to be. */
export interface Content {
  readonly hash: Hash
  readonly sizeBytes: number
}

/**
 * The site that an archive is, whole and with paths that lead nowhere else.
 * @param textAt the text at a path of the archive; `fileAt` the same for a file
 * @throws Problem `bad-archive`
 */
export function siteFrom(
  manifest: Manifest,
  siteId: string,
  textAt: (path: string) => Content,
  fileAt: (path: string) => Content,
): Site {
  const { format: _format, version: _version, versions: _versions, notes: _notes, ...said } = manifest
  const held = (texts: ArchivedPage['texts']): Pick<Page, 'content' | 'slots'> => {
    const slots = Object.fromEntries(
      Object.entries(texts)
        .filter(([slot]) => slot !== mainSlot)
        .map(([slot, at]) => [slot, textAt(at).hash])
        .filter(([, hash]) => hash !== emptyHash),
    ) as Record<string, Hash>
    const main = texts[mainSlot]
    return { content: main === undefined ? emptyHash : textAt(main).hash, slots }
  }
  const pages = said.pages.map(({ texts, translatedFrom: from, ...one }): Page => {
    if (cleanLabel(one.label) !== one.label) throw bad(`“${one.label}” is no label of a page.`)
    if (one.date !== null && checkDate(one.date) !== one.date) throw bad(`“${one.date}” is no date.`)
    return { ...one, ...held(texts), translatedFrom: from ? { ofId: from.ofId, ...held(from.texts) } : null }
  })
  const templates = said.templates.map(({ file: at, ...one }): Template => ({
    ...one,
    source: textAt(at).hash,
  }))
  const files = said.files.map(({ file: at, ...one }): SiteFile => {
    const { hash, sizeBytes } = fileAt(at)
    return { ...one, hash, sizeBytes }
  })
  const site: Site = { ...said, id: siteId, pages, templates, files }
  const [fault] = checkSite(site)
  if (fault) throw bad(`It is not whole (${fault.rule}, ${fault.id}).`)
  if (treeOf(site).places.some(({ depth }) => depth >= mostLevels))
    throw bad(`A plan may have at most ${mostLevels} levels.`)
  const newest = Math.max(...pages.map((one) => one.seq), ...files.map((one) => one.seq), -1)
  if (site.nextSeq <= newest) throw bad('Its numbers do not fit together.')
  const names = namesOf(site)
  for (const path of [...[...names.pages.values()].map((one) => one.path), ...names.files.values()])
    if (sitePath.validate(path.replace(/^\.trial\//, '')).error)
      throw bad(`“${path.slice(0, 200)}” is no name of a file.`)
  return site
}
