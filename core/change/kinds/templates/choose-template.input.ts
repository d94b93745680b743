import Joi from 'joi'
import { type ChangeInput, id, ids } from '../../input'
import type { ChooseTemplate } from './choose-template'

export const chooseTemplate: ChangeInput<ChooseTemplate> = {
  fields: { pageIds: ids, of: Joi.valid('page', 'below').required(), templateId: id.allow(null) },
}
