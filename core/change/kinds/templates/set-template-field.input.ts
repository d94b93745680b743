import Joi from 'joi'
import { type ChangeInput, id, longestLine } from '../../input'
import type { SetTemplateField } from './set-template-field'

const value = Joi.string().required().allow(null).max(longestLine)

export const setTemplateField: ChangeInput<SetTemplateField> = {
  fields: {
    templateId: id,
    field: Joi.valid('name', 'basedOn').required(),
    value: value.when('field', { is: 'basedOn', then: id.allow(null), otherwise: Joi.invalid(null) }),
    was: value,
  },
}
