import Joi from 'joi'
import { checkDate, tagTyped } from '#core/language'
import { type Hash, longestText } from '#core/site'
import { longestLabel } from './edited'

/** Keeps a text and tells the hash under which it is kept, and its size in bytes. */
export type KeepText = (text: string) => Promise<{ readonly hash: Hash; readonly sizeBytes: number }>

/**
 * What of a kind of change is accepted from outside. Apart from the kind itself, so that a browser never
 * loads a validator.
 * @typeParam C the change's fields
 * @typeParam R the fields of what a window asks for
 */
export interface ChangeInput<C, R = C> {
  readonly fields: Readonly<Record<keyof R, Joi.Schema>>
  /** The texts it brings, to be read before anything is locked; one that cannot be read is never stored. */
  readonly reads?: (
    request: R,
  ) => readonly { readonly as: 'html' | 'css' | 'template'; readonly text: string }[]
  /** Keeps its texts; without it, what is asked for is the change. */
  readonly make?: (request: R, keep: KeepText) => Promise<C>
  /** Levels of lists that hold no pages below each other, where pages come nested. */
  readonly outerLevels?: number
}

export const mostPages = 60_000

export const id = Joi.string().guid({ version: 'uuidv4' }).required()
export const ids = Joi.array()
  .items(Joi.string().guid({ version: 'uuidv4' }))
  .min(1)
  .max(mostPages)
  .required()
export const hash = Joi.string().hex().length(64).required()
export const place = { parentId: id.allow(null), after: id.allow(null) }
export const text = Joi.string().required().allow('').max(longestText)
/** The name of a slot. */
export const slot = Joi.string().max(100)
/** Texts on a line; the core says in words what is too long. */
export const longestLine = 20_000

/** A language, by its tag or by its name. */
export const language = Joi.string().custom((typed: string, helpers) =>
  typed === '' ? typed : (tagTyped(typed) ?? helpers.error('any.invalid')),
)

const details = Joi.object({
  ownName: Joi.string().max(300),
  title: Joi.string().max(longestLine).allow(''),
  description: Joi.string().max(longestLine).allow(''),
  language: language.invalid(''),
  dated: Joi.boolean(),
  date: Joi.string().custom((typed: string, helpers) => checkDate(typed) ?? helpers.error('any.invalid')),
})
const newPage = Joi.object({
  id,
  label: Joi.string().required().max(longestLabel),
  trial: Joi.boolean(),
  inMenus: Joi.boolean(),
  language,
  details,
  children: Joi.array().items(Joi.link('#newPage')),
}).id('newPage')
export const newPages = Joi.array().items(newPage).min(1).max(mostPages).required()

/** Line ends as a site keeps them, whatever the window's were. */
export const newlines = (written: string): string => written.replace(/\r\n?/g, '\n')
