import Joi from 'joi'
import { type ChangeInput, id, language, longestLine } from '../../input'
import type { SetPageText } from './set-page-text'

export const setPageText: ChangeInput<SetPageText> = {
  fields: {
    pageId: id,
    field: Joi.valid('label', 'title', 'description', 'ownName', 'date', 'language').required(),
    value: Joi.string()
      .required()
      .allow(null, '')
      .max(longestLine)
      .when('field', { is: 'language', then: language }),
    was: Joi.string().required().allow(null, ''),
  },
}
