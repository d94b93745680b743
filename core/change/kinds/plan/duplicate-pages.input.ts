import Joi from 'joi'
import { type ChangeInput, id, ids } from '../../input'
import type { DuplicatePages } from './duplicate-pages'

export const duplicatePages: ChangeInput<DuplicatePages> = {
  fields: { pageIds: ids, newIds: Joi.object().pattern(id, id).required() },
}
