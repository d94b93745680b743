import Joi from 'joi'
import type { Scheme } from '#core/site'
import type { ChangeInput } from '../../input'
import type { SetScheme } from './set-scheme'

const folder = Joi.string()
  .allow('')
  .max(60)
  .pattern(/^[A-Za-z0-9_-]*$/)
const word = Joi.string().max(40)

export const schemeInput = Joi.object<Scheme>({
  letterCase: Joi.valid('lower', 'as-typed').required(),
  gap: Joi.valid('-', '_', '').required(),
  letters: Joi.valid('ascii', 'kept').required(),
  leaveOut: Joi.array().items(word).max(200).required(),
  shortForms: Joi.array()
    .items(Joi.object({ word: word.required(), short: word.pattern(/^[\p{L}\p{N}]+$/u).required() }))
    .max(200)
    .required(),
  longest: Joi.number().integer().min(3).max(100).required(),
  extension: Joi.valid('.html', '.htm').required(),
  homeName: word.pattern(/^[A-Za-z0-9_-]+$/).required(),
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

export const setScheme: ChangeInput<SetScheme> = {
  fields: { scheme: schemeInput.required(), was: schemeInput.required(), forward: Joi.boolean() },
}
