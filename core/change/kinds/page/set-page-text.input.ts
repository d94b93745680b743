import Joi from 'joi'
import { type ChangeInput, id, longestLine } from '../../input'
import type { SetPageText } from './set-page-text'

export const setPageText: ChangeInput<SetPageText> = {
  fields: {
    pageId: id,
    field: Joi.valid('label', 'title', 'description', 'ownName', 'date').required(),
    value: Joi.string().required().allow(null, '').max(longestLine),
    was: Joi.string().required().allow(null, ''),
  },
}
