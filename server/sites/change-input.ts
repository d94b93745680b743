import Joi from 'joi'
import type pg from 'pg'
import { type Change, longestLabel, type NewPage } from '#core/change'
import { mostLevels } from '#core/plan'
import type { Scheme } from '#core/site'
import { putBlob, readAhead, tryTemplate } from '#server/contents'
import { Problem } from '#server/platform'

/** A change as a window asks for it: texts as texts, since only the server names them by hash. */
export type ChangeRequest =
  | Omit<Extract<Change, { kind: 'addPages' }>, 'content'>
  | Omit<Extract<Change, { kind: 'replacePlan' }>, 'content'>
  | Extract<
      Change,
      {
        kind:
          | 'setPageText'
          | 'setPageFlag'
          | 'duplicatePages'
          | 'setHome'
          | 'releaseNames'
          | 'dropAddresses'
          | 'movePages'
          | 'removePages'
          | 'setScheme'
          | 'setSetting'
          | 'removeFile'
      }
    >
  | { readonly kind: 'writeContent'; readonly pageId: string; readonly text: string; readonly was: string }
  | {
      readonly kind: 'writeTemplate'
      readonly templateId: string
      readonly text: string
      readonly was: string
    }
  | { readonly kind: 'writeFile'; readonly fileId: string; readonly text: string; readonly was: string }

/** Largest text of one page, template or style sheet, in UTF-16 code units. */
const longestText = 4_000_000
const mostPages = 60_000

const id = Joi.string().guid({ version: 'uuidv4' })
const hash = Joi.string().hex().length(64)
const place = { parentId: id.required().allow(null), after: id.required().allow(null) }
const text = Joi.string().required().allow('').max(longestText)
const folder = Joi.string()
  .allow('')
  .max(60)
  .pattern(/^[A-Za-z0-9_-]*$/)

const details = Joi.object({
  ownName: Joi.string().max(100),
  title: Joi.string().max(20_000).allow(''),
  description: Joi.string().max(20_000).allow(''),
})
const newPage = Joi.object({
  id: id.required(),
  label: Joi.string().required().max(longestLabel),
  trial: Joi.boolean(),
  inMenus: Joi.boolean(),
  details,
  children: Joi.array().items(Joi.link('#newPage')),
}).id('newPage')

export const schemeInput = Joi.object<Scheme>({
  letterCase: Joi.valid('lower', 'as-typed').required(),
  gap: Joi.valid('-', '_', '').required(),
  letters: Joi.valid('ascii', 'kept').required(),
  leaveOut: Joi.array().items(Joi.string().max(40)).max(200).required(),
  shortForms: Joi.array()
    .items(
      Joi.object({
        word: Joi.string().max(40).required(),
        short: Joi.string()
          .max(40)
          .pattern(/^[\p{L}\p{N}]+$/u)
          .required(),
      }),
    )
    .max(200)
    .required(),
  longest: Joi.number().integer().min(3).max(100).required(),
  extension: Joi.valid('.html', '.htm').required(),
  homeName: Joi.string()
    .max(40)
    .pattern(/^[A-Za-z0-9_-]+$/)
    .required(),
  arrangement: Joi.alternatives(
    Joi.object({ kind: Joi.valid('together', 'folder-a-page').required() }),
    Joi.object({
      kind: Joi.valid('sections').required(),
      sectionPage: Joi.valid('inside', 'beside').required(),
    }),
    Joi.object({ kind: Joi.valid('one-folder').required(), folder: folder.required().disallow('') }),
  ).required(),
  numbered: Joi.boolean().required(),
  folders: Joi.object({ image: folder, style: folder, script: folder, document: folder, other: folder })
    .fork(['image', 'style', 'script', 'document', 'other'], (one) => one.required())
    .required(),
})

const planValue = Joi.alternatives(Joi.boolean(), Joi.string().max(20_000).allow('')).required().allow(null)

const fields = {
  addPages: { ...place, pages: Joi.array().items(newPage).min(1).max(mostPages).required() },
  setPageText: {
    pageId: id.required(),
    field: Joi.valid('label', 'title', 'description', 'ownName', 'date').required(),
    value: Joi.string().required().allow(null, '').max(20_000),
    was: Joi.string().required().allow(null, ''),
  },
  replacePlan: {
    added: Joi.array()
      .items(Joi.object({ ...place, pages: Joi.array().items(newPage).min(1).max(mostPages).required() }))
      .max(mostPages)
      .required(),
    moved: Joi.array()
      .items(
        Joi.object({
          pageId: id.required(),
          ...place,
          was: Joi.object({
            parentId: id.required().allow(null),
            order: Joi.string().max(500).required(),
          }).required(),
        }),
      )
      .max(mostPages)
      .required(),
    changed: Joi.array()
      .items(
        Joi.object({
          pageId: id.required(),
          field: Joi.valid('label', 'title', 'description', 'ownName', 'trial', 'inMenus').required(),
          value: planValue,
          was: planValue,
        }),
      )
      .max(mostPages)
      .required(),
    removed: Joi.array()
      .items(Joi.object({ pageId: id.required(), was: Joi.string().max(20).required() }))
      .max(mostPages)
      .required(),
  },
  duplicatePages: {
    pageIds: Joi.array().items(id).min(1).max(mostPages).required(),
    newIds: Joi.object().pattern(id, id).required(),
  },
  releaseNames: { pageIds: Joi.array().items(id).min(1).max(mostPages).required() },
  dropAddresses: {
    addresses: Joi.object()
      .pattern(id, Joi.array().items(Joi.string().max(2000)).max(1000))
      .required(),
  },
  setHome: { pageId: id.required(), was: id.required() },
  setPageFlag: {
    pageIds: Joi.array().items(id).min(1).max(mostPages).required(),
    flag: Joi.valid('trial', 'inMenus', 'dated').required(),
    value: Joi.boolean().required(),
  },
  movePages: { ...place, pageIds: Joi.array().items(id).min(1).max(mostPages).required() },
  removePages: { pageIds: Joi.array().items(id).min(1).max(mostPages).required() },
  setScheme: { scheme: schemeInput.required(), was: schemeInput.required(), forward: Joi.boolean() },
  setSetting: {
    field: Joi.valid('name', 'language', 'titlePattern').required(),
    value: Joi.string()
      .required()
      .max(300)
      .when('field', { is: 'language', then: Joi.string().pattern(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/) }),
    was: Joi.string().required(),
  },
  removeFile: { fileId: id.required() },
  writeContent: { pageId: id.required(), text, was: hash.required() },
  writeTemplate: { templateId: id.required(), text, was: hash.required() },
  writeFile: { fileId: id.required(), text, was: hash.required() },
} satisfies Record<ChangeRequest['kind'], Joi.SchemaMap>

type Nested = { readonly pages?: unknown; readonly added?: unknown; readonly children?: unknown }

/** How deep the pages of a change are nested, counted level by level. */
function levelsOf(change: Nested): number {
  const below = (one: Nested | null) => one?.pages ?? one?.added ?? one?.children
  let level: unknown[] = [change]
  for (let count = -1; ; count++) {
    level = level.flatMap((one) => below(one as Nested | null) ?? [])
    if (level.length === 0 || count > mostLevels) return count + 1
  }
}

/** Checks a change from outside; throws a Problem that names the field. */
export function readChange(input: unknown): ChangeRequest {
  const kind = (input as { kind?: unknown } | null)?.kind
  if (typeof kind !== 'string' || !Object.hasOwn(fields, kind))
    throw new Problem('bad-request', 'This is no change that Rubricant knows.')
  // What is nested without end is not looked into: a validator goes as deep as what it is given.
  const runs = kind === 'replacePlan' ? 1 : 0
  if (levelsOf(input as Nested) > mostLevels + runs)
    throw new Problem('bad-request', `A plan may have at most ${mostLevels} levels.`)
  const { error, value } = Joi.object({
    kind: Joi.string().required(),
    ...fields[kind as ChangeRequest['kind']],
  }).validate(input)
  if (error) throw new Problem('bad-request', `The change is not complete: ${error.message}.`)
  return value as ChangeRequest
}

/** Longest template, in UTF-16 code units, and most tags in it: it is read for every page that is made. */
const longestTemplate = 500_000
const mostTemplateTags = 10_000

/**
 * Reads the text of a change ahead, so that nothing is locked while it is read, and one that cannot be
 * read is never stored.
 */
export async function readChangeText(request: ChangeRequest): Promise<void> {
  if (request.kind === 'writeContent') await readAhead('html', newlines(request.text))
  else if (request.kind === 'writeFile') await readAhead('css', newlines(request.text))
  else if (request.kind === 'writeTemplate')
    if (request.text.length > longestTemplate || request.text.split('<').length > mostTemplateTags)
      throw new Problem(
        'too-heavy',
        `A template has at most ${longestTemplate.toLocaleString('en')} characters and ${mostTemplateTags.toLocaleString('en')} tags.`,
        422,
      )
    else await tryTemplate(newlines(request.text))
}

/** Line ends as the site keeps them, whatever the window's were. */
const newlines = (written: string) => written.replace(/\r\n?/g, '\n')

/** Turns a request into the core's change, storing new texts first. */
export async function prepareChange(client: pg.PoolClient, request: ChangeRequest): Promise<Change> {
  switch (request.kind) {
    case 'addPages':
      return { ...request, pages: request.pages as NewPage[], content: await putBlob(client, '') }
    case 'replacePlan':
      return { ...request, content: await putBlob(client, '') }
    case 'writeContent':
      return {
        kind: 'setContent',
        pageId: request.pageId,
        content: await putBlob(client, newlines(request.text)),
        was: request.was,
      }
    case 'writeTemplate':
      return {
        kind: 'setTemplate',
        templateId: request.templateId,
        source: await putBlob(client, newlines(request.text)),
        was: request.was,
      }
    case 'writeFile': {
      const bytes = Buffer.from(newlines(request.text))
      return {
        kind: 'setFile',
        fileId: request.fileId,
        hash: await putBlob(client, bytes),
        sizeBytes: bytes.length,
        was: request.was,
      }
    }
    default:
      return request
  }
}
