import Joi from 'joi'
import { type ChangeInput, id, language } from '../../input'
import type { TranslatePages } from './translate-pages'

export const translatePages: ChangeInput<TranslatePages> = {
  fields: { pageId: id, language: language.required(), newIds: Joi.object().pattern(id, id).required() },
}
